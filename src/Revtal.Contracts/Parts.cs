using Revtal.Core.Hardware;
using Revtal.Core.Orders;
using Revtal.Core.Parts;

namespace Revtal.Contracts;

/// <summary>A line of the catalogue; its number stands in the path.</summary>
/// <param name="Elsewhere">A price to compare with: what the maker or a list asks.</param>
/// <param name="WarrantyMonths">How long the shop answers for it, from the hand-back on; 1 to 120, null where nobody
/// said.</param>
[Example(
    """
        {
          "name": "16 GB laptop module",
          "price": 36.0,
          "module": {
            "size": 17179869184,
            "generation": "DDR4",
            "form": "SO-DIMM",
            "ratedSpeed": 3200
          },
          "least": 4
        }
        """
)]
public sealed record PartRequest(
    string Name,
    decimal Price,
    MemoryModule? Module = null,
    Drive? Drive = null,
    int Pieces = 1,
    int Least = 0,
    string? Barcode = null,
    string? Supplier = null,
    PriceElsewhere? Elsewhere = null,
    int? WarrantyMonths = null
);

/// <summary>Parts come in.</summary>
/// <param name="Count">How many; of kits, how many kits. Left out where serials are given.</param>
/// <param name="Serials">One a piece.</param>
/// <param name="Cost">What the shop paid for one piece.</param>
/// <param name="Grade">Of used parts: A, B or C.</param>
[Example("""{"serials": ["OS4S-0031", "OS4S-0032"], "cost": 21.5, "place": "drawer 3"}""")]
public sealed record ReceiveRequest(
    int? Count = null,
    IReadOnlyList<string>? Serials = null,
    decimal? Cost = null,
    string? Supplier = null,
    string? Place = null,
    string? Grade = null,
    string? Tested = null
);

/// <param name="To">Null when only its place changes.</param>
/// <param name="Claim">Of a faulty part that goes back to who sold it.</param>
[Example("""{"to": "faulty", "note": "fails in every slot"}""")]
public sealed record MovePartRequest(
    PartState? To = null,
    string? Place = null,
    string? Note = null,
    Claim? Claim = null
);

/// <param name="Into">The part number of a single piece.</param>
[Example("""{"into": "OS4U-16G"}""")]
public sealed record SplitRequest(string Into);

/// <summary>One kind with its parts.</summary>
/// <param name="Items">Those in the shop or in a machine on its bench.</param>
/// <param name="Gone">How many of it were sold, sent back or scrapped.</param>
public sealed record PartView(PartLine Line, IReadOnlyList<PartItemView> Items, int Gone);

/// <summary>One physical part.</summary>
/// <param name="Ways">What it may become by hand; empty where an order decides about it.</param>
public sealed record PartItemView(PartItem Item, IReadOnlyList<PartState> Ways);

public sealed record LedgerView(
    long Id,
    long Item,
    string Kind,
    PartState? From,
    PartState To,
    int? Order,
    string? Position,
    string? Note,
    DateTimeOffset At,
    string By
);

/// <summary>What one line of a file does, or why it does nothing.</summary>
/// <param name="Line">From 1, the head being the first.</param>
public sealed record CsvChange(int Line, string Number, string What);

/// <summary>What a file did, or would do. With problems nothing is done, and so there are no changes.</summary>
public sealed record CsvImported(
    bool DryRun,
    IReadOnlyList<CsvChange> Changes,
    IReadOnlyList<CsvChange> Problems,
    int Unchanged
);

/// <summary>A machine by its serial, over all of its visits.</summary>
/// <param name="Noted">What an earlier order left for this visit; null where nothing.</param>
/// <param name="Marks">Slots that a swap test found at fault.</param>
/// <param name="SealBroken">The order in which its warranty seal was broken; null where it was not here.</param>
public sealed record MachineView(
    string Serial,
    IReadOnlyList<OrderCard> Orders,
    NotedVisit? Noted,
    IReadOnlyList<SlotMark> Marks,
    int? SealBroken
);
