namespace Revtal.Core.Guides;

/// <summary>
/// Every key of a guide file (<c>revtal-guide/1</c>), in the order in which it is written. The reader, the writer, the
/// JSON Schema and the format's page all come from here.
/// </summary>
internal static class GuideTable
{
    public const string Format = "revtal-guide/1";
    private const int MostRemovals = 200,
        MostPictures = 12,
        MostSpeeds = 16,
        MostMinutes = 600,
        MostVariants = 16;

    /// <summary>The facts of the model, or of one build of it.</summary>
    public static Guide Facts(GuideForm f, Guide? g) =>
        new(
            Model: f.Part("model", "model", Model, g?.Model, needed: true)!,
            Memory: f.Part("memory", "memory", Memory, g?.Memory, needed: true)!,
            Drives: Shared(f, "each-bay")
                .Parts(
                    "drives",
                    "a drive bay",
                    FieldTypes.MostPositions,
                    Bay,
                    g?.Drives,
                    "Its bays, in the machine's order."
                ),
            Isolate: f.Take(
                "isolate",
                FieldTypes.List(FieldTypes.Isolate, FieldTypes.MostItems),
                g?.Isolate,
                "What makes it safe to open, in order."
            ),
            Removals: f.Parts("removals", "a removal", MostRemovals, Removal, g?.Removals, "What comes off."),
            FirstStart: f.Parts(
                "first-start",
                "a first-start sign",
                FieldTypes.MostItems,
                Sign,
                g?.FirstStart,
                "What may be seen or heard at the first start."
            ),
            Firmware: f.Part("firmware", "firmware", Firmware, g?.Firmware),
            MeasureOpen: f.Text(
                "measure-open",
                g?.MeasureOpen,
                "How a start with the case open is safe; left out where it is not."
            ),
            NeverMeasureOpen: f.Text(
                "never-measure-open",
                g?.NeverMeasureOpen,
                "Why it is never started with the case open."
            ),
            Traps: f.Parts("traps", "a trap", FieldTypes.MostItems, Trap, g?.Traps, "What people get wrong."),
            Variants: []
        );

    /// <summary>The whole file, its format and its variants with it.</summary>
    public static Guide Whole(GuideForm f, Guide? g, Func<GuideForm, Variant?, Variant> variant)
    {
        f.Take(
            "format",
            FieldTypes.Exactly(Format, $"the format is “{{0}}”; this service reads {Format}"),
            Format,
            needed: true
        );
        return Facts(f, g) with
        {
            Variants = f.Parts("variants", "a variant", MostVariants, variant, g?.Variants, "Builds that differ."),
        };
    }

    /// <param name="differs">The facts in which it differs: in reading they are handed to this function, in writing it
    /// gives them.</param>
    public static Variant Variant(GuideForm f, Variant? v, Func<GuideNode?, Guide> facts, GuideNode? differs) =>
        new(
            Id: f.Need("id", v?.Id, "As the label has it.", FieldTypes.Name),
            TellApart: f.Need("tell-apart", v?.TellApart, "What to look at, and where."),
            Built: f.Text("built", v?.Built, "Years: `2021..2023`."),
            Label: f.Text("label", v?.Label),
            Board: f.Text("board", v?.Board, "The board's revision."),
            Guide: facts(
                f.Take(
                    "differs",
                    FieldTypes.Overlay,
                    differs,
                    "Keys of the guide with other values. Lists of named things (`id`, `group`) go name by name; "
                        + "`absent: true` takes one away, `~` a key."
                )
            )
        );

    // Spread over the list before it is read.
    private static GuideForm Shared(GuideForm f, string key)
    {
        f.Take(key, FieldTypes.Overlay, null, EachSays);
        return f;
    }

    private static ModelFacts Model(GuideForm f, ModelFacts? m) =>
        new(
            Maker: f.Need("maker", m?.Maker),
            Name: f.Need("name", m?.Name),
            Code: f.Need("code", m?.Code, "Unique in the shop: `FJ14`.", FieldTypes.Code),
            Kind: f.Need("kind", m?.Kind, "As the trade says: laptop, tower, all-in-one."),
            Built: f.Text("built", m?.Built, "Years: `2021..2023`."),
            TellApart: f.Text("tell-apart", m?.TellApart, "How to tell its builds apart."),
            ReportsAs: f.Take(
                "reports-as",
                Texts,
                m?.ReportsAs,
                "Product names under which its firmware reports it (SMBIOS type 1, Product Name)."
            ),
            Sketch: f.Flag(
                "sketch",
                m?.Sketch,
                "It is being written at the bench: facts may be missing, and a `reach` may be `unknown`."
            )
        );

    private static MemoryFacts Memory(GuideForm f, MemoryFacts? m)
    {
        // Named in the order of the file, which is not that of the record.
        var generation = f.Text("generation", m?.Generation, "As JEDEC names it: DDR4, DDR5, LPDDR4.");
        var module = f.Text("module", m?.Module, "SO-DIMM, DIMM, soldered.");
        var speeds = f.Take("speeds", FieldTypes.List(FieldTypes.Speed, MostSpeeds), m?.Speeds, "MT/s.");
        var stated = f.Take("stated-max", FieldTypes.Size, m?.StatedMax, "What its maker states as the most.");
        return new(
            Generation: generation,
            Module: module,
            Speeds: [.. speeds.Order()],
            StatedMax: stated,
            ConfirmedMax: f.Part(
                "confirmed-max",
                "confirmed-max",
                Confirmed,
                m?.ConfirmedMax,
                "What orders of this shop proved beyond it."
            ),
            SharedGraphics: f.Take(
                "shared-graphics",
                FieldTypes.Size,
                m?.SharedGraphics,
                "What the graphics keep for themselves."
            ),
            Pairing: f.Take("pairing", FieldTypes.OneOf(GuideTerms.Pairings), m?.Pairing, "Which must be alike."),
            Ecc: f.Take("ecc", FieldTypes.OneOf(GuideTerms.EccKinds), m?.Ecc, "Whether it takes error correction."),
            Buffering: f.Take("buffering", FieldTypes.OneOf(GuideTerms.Bufferings), m?.Buffering),
            Voltage: f.Take("voltage", FieldTypes.Volts, m?.Voltage, "What the board gives its modules."),
            PerChannel: f.Take(
                "per-channel",
                FieldTypes.PerChannel,
                m?.PerChannel,
                "The top speed in MT/s with so many modules in one channel."
            ),
            Slots: Shared(f, "each-slot").Parts("slots", "a slot", FieldTypes.MostPositions, Slot, m?.Slots),
            Populate: f.Take(
                "populate",
                FieldTypes.Populate,
                m?.Populate,
                "The slots to fill, by how many are filled, soldered ones included; what it leaves out is derived."
            ),
            NeverEmpty: f.Take(
                "never-empty",
                FieldTypes.List(FieldTypes.Name, FieldTypes.MostPositions),
                m?.NeverEmpty,
                "Slots without whose module the board does not start."
            ),
            SupportedTotals: f.Take(
                "supported-totals",
                FieldTypes.List(FieldTypes.Size, FieldTypes.MostItems),
                m?.SupportedTotals,
                "The totals that its maker lists, where it lists them."
            )
        );
    }

    private const string EachSays = "What holds for all that do not say it themselves: a shorthand, written out.";

    private static ConfirmedMax Confirmed(GuideForm f, ConfirmedMax? c) =>
        new(
            Size: f.NeedSize("size", c?.Size),
            Orders: f.Take(
                "orders",
                FieldTypes.List(FieldTypes.Whole(1, int.MaxValue, "numbers of orders"), FieldTypes.MostItems),
                c?.Orders,
                "The orders that proved it."
            )
        );

    private static MemorySlot Slot(GuideForm f, MemorySlot? s) =>
        new(
            Id: f.Need("id", s?.Id, type: FieldTypes.Name),
            Channel: f.Text("channel", s?.Channel),
            ReportsAs: f.Text(
                "reports-as",
                s?.ReportsAs,
                "The locator under which the firmware lists it (SMBIOS type 17, Device Locator)."
            ),
            ReportsBank: f.Text(
                "reports-bank",
                s?.ReportsBank,
                "The bank that the firmware gives it, where locators alone are alike (SMBIOS type 17, Bank Locator)."
            ),
            Label: f.Text("label", s?.Label, "What the board has printed beside it, or its colour."),
            Below: f.Text("below", s?.Below, "The slot that lies over this one."),
            Reach: f.Text("reach", s?.Reach, "The removal that gives access."),
            Max: f.Take("max", FieldTypes.Size, s?.Max, "The largest module."),
            Soldered: f.Flag("soldered", s?.Soldered),
            Angle: f.Take("angle", FieldTypes.Whole(0, 90), s?.Angle, "At which the module goes in, from the board."),
            Latch: f.Take("latch", FieldTypes.OneOf(GuideTerms.Latches), s?.Latch),
            Press: f.Take("press", FieldTypes.OneOf(GuideTerms.Presses), s?.Press, "How the module goes home."),
            Notch: f.Text("notch", s?.Notch, "Where the notch points."),
            PadUnder: f.Take(
                "pad-under",
                FieldTypes.Millimetres,
                s?.PadUnder,
                "Thickness of the pad between module and board."
            ),
            PadOn: f.Take("pad-on", FieldTypes.Millimetres, s?.PadOn, "Thickness of the pad on the module."),
            Seated: f.Text("seated", s?.Seated, "How a module that is home looks."),
            At: f.Take("at", FieldTypes.Point, s?.At, "Its middle on the drawing of the board."),
            Turn: f.Take("turn", FieldTypes.OneOf(["0", "90"]), s?.Turn is 90 ? "90" : null, "How its long side lies.")
            == "90"
                ? 90
                : 0
        );

    private static DriveBay Bay(GuideForm f, DriveBay? b) =>
        new(
            Id: f.Need("id", b?.Id, type: FieldTypes.Name),
            Form: f.Text("form", b?.Form, "M.2 2280, 2.5 in SATA, 3.5 in SATA."),
            Key: f.Text("key", b?.Key, "Of an M.2 socket: M, B."),
            Link: f.Text("link", b?.Link, "PCIe 3.0 x4, SATA 6 Gb/s."),
            Height: f.Take("height", FieldTypes.Millimetres, b?.Height, "Of the tallest drive."),
            Boots: f.Flag("boots", b?.Boots, "The machine starts from it."),
            Reach: f.Text("reach", b?.Reach, "The removal that gives access."),
            Standoff: f.Text("standoff", b?.Standoff, "Where the screw post must sit."),
            Pad: f.Take("pad", FieldTypes.Millimetres, b?.Pad, "Thickness of its thermal pad."),
            Hold: f.Text("hold", b?.Hold, "The cable, tray or cage."),
            Path: f.Text("path", b?.Path, "How the path ends by which a system links what sits there: `ata-3`."),
            Port: f.Text("port", b?.Port, "Where its cable goes on the board, as it is printed there."),
            At: f.Take("at", FieldTypes.Point, b?.At, "Its middle on the drawing of the board.")
        );

    private static Removal Removal(GuideForm f, Removal? r)
    {
        var id = f.Need("id", r?.Id, type: FieldTypes.Name);
        return new(
            Id: id,
            Title: f.Text("title", r?.Title, "As the steps name it; left out, the id.") ?? id.Replace('-', ' '),
            Needs: f.Take("needs", Texts, r?.Needs, "Other removals that come off before, or `isolated`."),
            Isolates: f.Flag("isolates", r?.Isolates, "Power stays on the board until this is off."),
            TakesOut: f.Take(
                "takes-out",
                FieldTypes.List(FieldTypes.Text, FieldTypes.MostPositions),
                r?.TakesOut,
                "Bays whose drives leave with it."
            ),
            Face: f.Text("face", r?.Face, "The side of the machine that its drawing shows."),
            Fasteners: f.Parts("fasteners", "a fastener group", FieldTypes.MostItems, Fasteners, r?.Fasteners),
            Clips: f.Parts("clips", "clips", FieldTypes.MostItems, Clips, r?.Clips, "What it still hangs on."),
            Pry: f.Parts("pry", "a pry point", FieldTypes.MostItems, Pry, r?.Pry, "Where a tool goes in."),
            Cables: f.Take("cables", Texts, r?.Cables),
            PadsStay: f.Text("pads-stay", r?.PadsStay, "Pads that may stay behind on it."),
            Precautions: f.Parts("precautions", "a precaution", FieldTypes.MostItems, Warn, r?.Precautions),
            Open: f.Text("open", r?.Open, "How it comes off."),
            Close: f.Text("close", r?.Close, "How it goes back."),
            Orient: f.Text("orient", r?.Orient, "Which way round it goes back."),
            SitsRight: f.Text("sits-right", r?.SitsRight, "How to see that it sits right."),
            Pictures: f.Part(
                "pictures",
                "pictures",
                Pictures,
                r?.Pictures is { Open.Count: 0, Close.Count: 0 } ? null : r?.Pictures
            ) ?? Guides.Pictures.None,
            Minutes: f.Take(
                "minutes",
                FieldTypes.Whole(0, MostMinutes),
                r?.Minutes is 0 ? null : r?.Minutes,
                "What it takes to take it off; closing takes as long."
            ) ?? 0
        );
    }

    private static FastenerGroup Fasteners(GuideForm f, FastenerGroup? g) =>
        new(
            Group: f.Need("group", g?.Group, type: FieldTypes.Name),
            Driver: f.Need("driver", g?.Driver, "The bit, or hand."),
            Length: f.Take("length", FieldTypes.Millimetres, g?.Length, "Under the head."),
            Count: f.Take("count", Count, g?.Count, needed: true) ?? 0,
            Captive: f.Flag("captive", g?.Captive, "They stay in the part when loose, and are not counted."),
            Seal: f.Flag("seal", g?.Seal, "A warranty seal covers one of them."),
            At: f.Take("at", Points, g?.At, "One place for each; without them `hidden` says where they are."),
            Hidden: f.Text("hidden", g?.Hidden, "Where the ones that are not seen hide."),
            ByHand: f.Flag("by-hand", g?.ByHand, "Turned by hand alone: what they go into is soft."),
            ExactFit: f.Flag("exact-fit", g?.ExactFit, "This very bit alone: a near one rounds the heads."),
            Order: f.Text("order", g?.Order, "Which of them first, coming off: `the middle one first`.")
        );

    private static Clips Clips(GuideForm f, Clips? c) =>
        new(
            Count: f.Take("count", Count, c?.Count, "Left out, one.") ?? 1,
            At: f.Take("at", Points, c?.At),
            Text: f.Text("text", c?.Text),
            Order: f.Text("order", c?.Order, "Which of them first: `the rear tabs, then the sides, then the front`.")
        );

    private static PryPoint Pry(GuideForm f, PryPoint? p) =>
        new(Tool: f.Need("tool", p?.Tool), At: f.Take("at", FieldTypes.Point, p?.At), Text: f.Text("text", p?.Text));

    private static Pictures Pictures(GuideForm f, Pictures? p) =>
        new(
            Open: f.Take("open", FieldTypes.List(FieldTypes.Hash, MostPictures), p?.Open, "Of it coming off."),
            Close: f.Take("close", FieldTypes.List(FieldTypes.Hash, MostPictures), p?.Close, "Of it going back.")
        );

    private static Precaution Warn(GuideForm f, Precaution? p) =>
        new(
            Kind: f.Need("kind", p?.Kind, type: FieldTypes.OneOf(GuideTerms.Precautions)),
            Text: f.Need("text", p?.Text),
            When: f.Take("when", FieldTypes.OneOf(GuideTerms.Ways), p?.When, "Where it holds for one way only.")
        );

    private static FirstStartSign Sign(GuideForm f, FirstStartSign? s) =>
        new(
            Sees: f.Need("sees", s?.Sees),
            Kind: f.Take("kind", FieldTypes.OneOf(GuideTerms.Signs), s?.Kind),
            Means: f.Need("means", s?.Means, "`normal`, or what is wrong."),
            Lasts: f.Take("lasts", FieldTypes.Time, s?.Lasts, "How long it may go on."),
            Do: f.Text("do", s?.Do),
            Then: f.Take("then", FieldTypes.OneOf(GuideTerms.Follows), s?.Then, "What follows.")
        );

    private static FirmwareFacts Firmware(GuideForm f, FirmwareFacts? w) =>
        new(
            Enter: f.Need("enter", w?.Enter, "How to get into the set-up."),
            RatedSpeed: f.Text("rated-speed", w?.RatedSpeed, "The setting that makes modules run at their rated speed.")
        );

    private static Trap Trap(GuideForm f, Trap? t) =>
        new(At: f.Need("at", t?.At, "A step, or the start of one: `fit.S1`, `open`."), Text: f.Need("text", t?.Text));

    private static FieldType<IReadOnlyList<string>> Texts => FieldTypes.List(FieldTypes.Text, FieldTypes.MostItems);

    private static FieldType<IReadOnlyList<BoardPoint>> Points =>
        FieldTypes.List(FieldTypes.Point, FieldTypes.MostPlaces);

    private static FieldType<int?> Count => FieldTypes.Whole(1, 99);
}
