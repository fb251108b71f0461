using Revtal.Core.Hardware;
using Revtal.Core.Parts;
using Revtal.Storage;

namespace Revtal.Demo;

/// <summary>The catalogue and the shelf of Saltmarsh Road.</summary>
internal static class DemoStock
{
    private static readonly PartKind[] Kinds =
    [
        Module("TM-8S", "8 GB laptop module", 8, "DDR4", "SO-DIMM", 2666, 19, 2, "Tarnmoor"),
        Module("OS4S-16G", "16 GB laptop module", 16, "DDR4", "SO-DIMM", 3200, 36, 6, "Ostrava"),
        Module("OS4S-16G32", "16 GB laptop module, fast", 16, "DDR4", "SO-DIMM", 3200, 39, 0, "Ostrava"),
        Module("OS4S-32G", "32 GB laptop module", 32, "DDR4", "SO-DIMM", 3200, 79, 0, "Ostrava"),
        Module("OS4S-32K", "Two 16 GB laptop modules, a kit", 16, "DDR4", "SO-DIMM", 3200, 66, 1, "Ostrava") with
        {
            Pieces = 2,
        },
        Module("TM-8U", "8 GB tower module", 8, "DDR4", "DIMM", 2666, 18, 1, "Tarnmoor"),
        Module("OS4U-16G", "16 GB tower module", 16, "DDR4", "DIMM", 3200, 34, 6, "Ostrava"),
        Module("OS4U-32G", "32 GB tower module", 32, "DDR4", "DIMM", 3200, 72, 0, "Ostrava"),
        Module("OS4U-64K", "Four 16 GB tower modules, a kit", 16, "DDR4", "DIMM", 3200, 124, 0, "Ostrava") with
        {
            Pieces = 4,
        },
        Module("TM-8S5", "8 GB laptop module, new kind", 8, "DDR5", "SO-DIMM", 4800, 27, 0, "Tarnmoor"),
        Module("OS5S-16G", "16 GB laptop module, new kind", 16, "DDR5", "SO-DIMM", 4800, 48, 2, "Ostrava"),
        Module("OS5S-32G", "32 GB laptop module, new kind", 32, "DDR5", "SO-DIMM", 5600, 96, 0, "Ostrava"),
        Module("OS5S-48G", "48 GB laptop module, new kind", 48, "DDR5", "SO-DIMM", 5600, 148, 0, "Ostrava"),
        Drive("BN-500", "500 GB drive, M.2", "500 GB", "M.2 2280", "M", "PCIe 4.0 x4", 2.3m, 44, 1),
        Drive("BN-1T", "1 TB drive, M.2", "1 TB", "M.2 2280", "M", "PCIe 4.0 x4", 2.3m, 71, 2),
        Drive("BN-2T", "2 TB drive, M.2", "2 TB", "M.2 2280", "M", "PCIe 4.0 x4", 2.3m, 129, 0),
        Drive("BS-1T", "1 TB drive, 2.5 in", "1 TB", "2.5 in", null, "SATA 6 Gb/s", 7m, 66, 1),
        Drive("BH-8T", "8 TB drive, 3.5 in", "8 TB", "3.5 in", null, "SATA 6 Gb/s", 26.1m, 189, 0),
    ];

    // What the machines' makers ask for the same.
    private static readonly Dictionary<string, decimal> MakersList = new()
    {
        ["OS4S-16G"] = 64,
        ["OS4S-32K"] = 118,
        ["OS4U-16G"] = 59,
        ["OS4U-64K"] = 236,
        ["BN-1T"] = 124,
    };

    // How many came in; of kits, how many kits.
    private static readonly (string Number, int Count, decimal Cost, string Place)[] Shelf =
    [
        ("TM-8S", 6, 11, "drawer 1"),
        ("OS4S-16G", 10, 23, "drawer 2"),
        ("OS4S-16G32", 2, 25, "drawer 2"),
        ("OS4S-32G", 2, 55, "drawer 2"),
        ("OS4S-32K", 2, 21, "drawer 2"),
        ("TM-8U", 2, 11, "drawer 4"),
        ("OS4U-16G", 13, 22, "drawer 4"),
        ("OS4U-32G", 4, 50, "drawer 4"),
        ("TM-8S5", 9, 17, "drawer 5"),
        ("OS5S-16G", 5, 31, "drawer 5"),
        ("OS5S-32G", 2, 66, "drawer 5"),
        ("OS5S-48G", 2, 104, "drawer 5"),
        ("BN-500", 2, 29, "cabinet"),
        ("BN-1T", 3, 48, "cabinet"),
        ("BS-1T", 1, 44, "cabinet"),
        ("BH-8T", 1, 140, "cabinet"),
    ];

    private const int WarrantyMonths = 24;

    public static async Task FillAsync(PartStore store, DateTimeOffset at)
    {
        var seen = DateOnly.FromDateTime(at.Date);
        PartKind[] kinds =
        [
            .. Kinds.Select(k =>
                k with
                {
                    WarrantyMonths = WarrantyMonths,
                    Elsewhere = MakersList.TryGetValue($"{k.Number}", out var asked)
                        ? new PriceElsewhere(asked, "the machine maker's list", seen)
                        : null,
                }
            ),
        ];
        await store.PutAsync(kinds, new Hand("ines", at, Guid.CreateVersion7()), _ => kinds.Length);
        foreach (var (number, count, cost, place) in Shelf)
        {
            var kind = Kinds.Single(k => k.IsCalled(number));
            var pieces = Enumerable
                .Range(1, count * kind.Pieces)
                .Select(i =>
                    (
                        kind,
                        new PartItem(
                            0,
                            kind.Number,
                            $"{number.Replace("-", "", StringComparison.Ordinal)}-{i:000}",
                            PartState.InStock,
                            cost,
                            "Harbour Supply",
                            place
                        )
                    )
                );
            await store.ReceiveAsync([.. pieces], new Hand("ines", at, Guid.CreateVersion7()));
        }
    }

    private static PartKind Module(
        string number,
        string name,
        int gigabytes,
        string generation,
        string form,
        int speed,
        decimal price,
        int least,
        string maker
    ) =>
        new PartKind(
            new PartNumber(number),
            name,
            new MemoryModule(
                MemorySize.Gigabytes(gigabytes),
                generation,
                form,
                speed,
                maker,
                Ecc: false,
                Registered: false
            ),
            null,
            1,
            price,
            least,
            null,
            "Harbour Supply"
        ).Checked();

    private static PartKind Drive(
        string number,
        string name,
        string size,
        string form,
        string? key,
        string link,
        decimal height,
        decimal price,
        int least
    ) =>
        new PartKind(
            new PartNumber(number),
            name,
            null,
            new Drive(DriveSize.Parse(size), form, key, link, height, 512, "Basaltine"),
            1,
            price,
            least,
            null,
            "Harbour Supply"
        ).Checked();
}
