using Revtal.Core.Hardware;

namespace Revtal.Core.Guides;

/// <summary>What a suggestion would change in a guide.</summary>
public enum GuideChangeKind
{
    /// <summary>A trap at a step: <c>Target</c> the step, <c>Text</c>.</summary>
    Trap,

    /// <summary>A warning at a removal: <c>Target</c>, <c>Word</c> its kind, <c>Text</c>.</summary>
    Precaution,

    /// <summary>Where fasteners hide: <c>Target</c> the group, <c>Text</c>.</summary>
    Hidden,

    /// <summary>How many fasteners there are: <c>Target</c> the group, <c>Number</c>.</summary>
    FastenerCount,

    /// <summary>How long a removal takes: <c>Target</c>, <c>Number</c> of minutes.</summary>
    Minutes,

    /// <summary>How to see that a removal sits right: <c>Target</c>, <c>Text</c>.</summary>
    SitsRight,

    /// <summary>
    /// A picture of a removal: <c>Target</c>, <c>Word</c> open or close, <c>Text</c> the picture's hash.
    /// </summary>
    Picture,

    /// <summary>A maximum that an order proved: <c>Size</c>, <c>Number</c> the order.</summary>
    ConfirmedMax,
}

/// <summary>One change to a guide, small enough to be taken or left with one action.</summary>
public sealed record GuideChange(
    GuideChangeKind Kind,
    string? Target = null,
    string? Text = null,
    string? Word = null,
    int? Number = null,
    MemorySize? Size = null
);

/// <summary>Suggested changes, said and done.</summary>
public static class GuideChanges
{
    /// <summary>The guide with the change in it, in each variant that has what it is about.</summary>
    /// <exception cref="RefusedException">The guide has nothing of that name, or the change lacks
    /// something.</exception>
    public static Guide Apply(Guide guide, GuideChange change) =>
        Change(guide, change) with
        {
            Variants =
            [
                .. guide.Variants.Select(v =>
                    v with
                    {
                        Guide = IsAbout(v.Guide, change) ? Change(v.Guide, change) : v.Guide,
                    }
                ),
            ],
        };

    /// <summary>As the lead reads it.</summary>
    /// <param name="guide">Names the step of a trap as the bench calls it; null where none is at hand.</param>
    public static string Sentence(GuideChange c, Guide? guide = null) =>
        c.Kind switch
        {
            GuideChangeKind.Trap => $"Trap at “{Place(c.Target, guide)}”: {c.Text}",
            GuideChangeKind.Precaution => $"Warning at {c.Target}, {c.Word}: {c.Text}",
            GuideChangeKind.Hidden => $"{c.Target} hides: {c.Text}",
            GuideChangeKind.FastenerCount => $"{c.Target} counts {c.Number}",
            GuideChangeKind.Minutes => $"{c.Target} takes {c.Number} min",
            GuideChangeKind.SitsRight => $"{c.Target} sits right when {c.Text}",
            GuideChangeKind.Picture => $"Picture for {c.Word} of {c.Target}",
            _ => $"{c.Size} works, proved by order {c.Number}",
        };

    private static string Place(string? target, Guide? guide) =>
        StepId.TryParse(target, out var step) ? StepWords.Title(step, guide) : target ?? "";

    private static bool IsAbout(Guide guide, GuideChange c) =>
        c.Kind switch
        {
            GuideChangeKind.Trap or GuideChangeKind.ConfirmedMax => true,
            GuideChangeKind.Hidden or GuideChangeKind.FastenerCount => guide.Removals.Any(r =>
                r.Fasteners.Any(f => f.Group == c.Target)
            ),
            _ => guide.Removals.Any(r => r.Id == c.Target),
        };

    private static Guide Change(Guide guide, GuideChange c)
    {
        if (!IsAbout(guide, c))
        {
            throw RefusedException.Invalid(
                "change-target",
                $"{guide.Model.Code} has no “{c.Target}” that this could change."
            );
        }

        return c.Kind switch
        {
            GuideChangeKind.Trap => guide with
            {
                Traps = [.. guide.Traps, new Trap(Need(c.Target, "the step"), Need(c.Text, "the text"))],
            },
            GuideChangeKind.Precaution => Removal(r =>
                r with
                {
                    Precautions =
                    [
                        .. r.Precautions,
                        new Precaution(OneOf(c.Word, GuideTerms.Precautions), Need(c.Text, "the text")),
                    ],
                }
            ),
            GuideChangeKind.Hidden => Group(g => g with { Hidden = Need(c.Text, "where") }),
            GuideChangeKind.FastenerCount => Group(g => g with { Count = Between(c.Number, 1, 99, "how many") }),
            GuideChangeKind.Minutes => Removal(r => r with { Minutes = Between(c.Number, 0, 600, "how many minutes") }),
            GuideChangeKind.SitsRight => Removal(r => r with { SitsRight = Need(c.Text, "the text") }),
            GuideChangeKind.Picture => Removal(r =>
                r with
                {
                    Pictures = With(r.Pictures, OneOf(c.Word, GuideTerms.Ways), Hash(c.Text)),
                }
            ),
            _ => guide with { Memory = guide.Memory with { ConfirmedMax = Confirmed(guide.Memory, c) } },
        };

        Guide Removal(Func<Removal, Removal> change) =>
            guide with
            {
                Removals = [.. guide.Removals.Select(r => r.Id == c.Target ? change(r) : r)],
            };

        Guide Group(Func<FastenerGroup, FastenerGroup> change) =>
            guide with
            {
                Removals =
                [
                    .. guide.Removals.Select(r =>
                        r with
                        {
                            Fasteners = [.. r.Fasteners.Select(g => g.Group == c.Target ? change(g) : g)],
                        }
                    ),
                ],
            };
    }

    private static ConfirmedMax Confirmed(MemoryFacts memory, GuideChange c)
    {
        var size = c.Size ?? throw Lacks("the size");
        var order = Between(c.Number, 1, int.MaxValue, "the order");
        return memory.ConfirmedMax switch
        {
            { } known when known.Size > size => known,
            { } known when known.Size == size => known with { Orders = [.. known.Orders.Append(order).Distinct()] },
            _ => new ConfirmedMax(size, [order]),
        };
    }

    private static Pictures With(Pictures p, string way, string hash) =>
        way == "open"
            ? p with
            {
                Open = [.. p.Open.Append(hash).Distinct()],
            }
            : p with
            {
                Close = [.. p.Close.Append(hash).Distinct()],
            };

    private static string Hash(string? text) =>
        text is not null && FieldTypes.HashShape().IsMatch(text)
            ? text
            : throw RefusedException.Invalid("change-picture", "Name the picture by the hash that the shop gave it.");

    private static string Need(string? text, string what) =>
        string.IsNullOrWhiteSpace(text) ? throw Lacks(what) : text.Trim().ReplaceLineEndings(" ");

    private static string OneOf(string? word, IReadOnlyList<string> known) =>
        word is not null && known.Contains(word)
            ? word
            : throw RefusedException.Invalid(
                "change-word",
                $"“{word}” is not known here. Known are {string.Join(", ", known)}."
            );

    private static int Between(int? number, int from, int to, string what) =>
        number is { } n && n >= from && n <= to ? n : throw Lacks(what);

    private static RefusedException Lacks(string what) =>
        RefusedException.Invalid("change-lacks", $"The suggestion does not say {what}.");
}
