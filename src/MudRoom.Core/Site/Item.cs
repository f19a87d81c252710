namespace MudRoom.Core.Site;

/// <summary>Which of the two dates on goods rules whether they may be used.</summary>
public enum RulingDate
{
    BestBefore,
    Expiry,
}

/// <summary>The condition a bin offers and an item needs.</summary>
public enum StorageClass
{
    Ambient,
    Cold,
    Dry,

    /// <summary>UN class 5.1.</summary>
    Oxidiser,

    /// <summary>UN class 2.1.</summary>
    Gas,
    Secure,
    Oversize,
}

/// <summary>How often an item is picked: A most, C least.</summary>
public enum PickRateClass
{
    A,
    B,
    C,
}

/// <summary>What is bought and stored, and what has to be known of it when it comes.</summary>
public sealed class Item
{
    public int Id { get; init; }
    public required string Code { get; init; }
    public required string Name { get; set; }

    /// <summary>What the rules speak of when they speak of a kind: "bare-root tree", "seed".</summary>
    public string Category { get; set; } = "";

    /// <summary>UN/ECE Recommendation 20 code of the unit in which stock is kept: H87 piece, KGM, MTR.</summary>
    public string BaseUnit { get; set; } = "H87";

    /// <summary>Smallest quantity that is counted, in base units; 1 for pieces.</summary>
    public decimal Step { get; set; } = 1;

    public bool NeedsBatch { get; set; }
    public bool NeedsSourceBatch { get; set; }
    public bool NeedsDates { get; set; }
    public bool NeedsOrigin { get; set; }
    public bool NeedsSerial { get; set; }

    /// <summary>What is asked of a source batch beyond number, dates and origin.</summary>
    public List<AttributeDefinition> Attributes { get; set; } = [];

    /// <summary>Letters an own batch number begins with.</summary>
    public string BatchPrefix { get; set; } = "";

    /// <summary>Days from production to the ruling date; null when goods do not age.</summary>
    public int? ShelfLifeDays { get; set; }

    /// <summary>Days that must remain when goods come in.</summary>
    public int? MinimumRemainingDays { get; set; }

    public RulingDate RulingDate { get; set; } = RulingDate.BestBefore;

    /// <summary>How far over the ordered quantity a line part may be received, in percent of it.</summary>
    public decimal OverPercent { get; set; }

    /// <summary>Most that may be over, in base units; null for no cap.</summary>
    public decimal? OverCap { get; set; }

    public StorageClass StorageClass { get; set; } = StorageClass.Ambient;

    /// <summary>Kilograms per base unit.</summary>
    public decimal Mass { get; set; }

    /// <summary>Litres per base unit.</summary>
    public decimal Volume { get; set; }

    /// <summary>Longest side of one piece in metres.</summary>
    public decimal LongestSide { get; set; }

    /// <summary>True when each count is weighed, for pieces of one item weigh differently.</summary>
    public bool CatchWeight { get; set; }

    /// <summary>How far a weight may lie from <see cref="Mass"/> times the pieces, in percent of it.</summary>
    public decimal WeightTolerance { get; set; } = 10;

    /// <summary>How it is numbered when it comes: {prefix}, {yy}, {yyyy}, {MM}, {dd}, {ww}, {vendor}, {n}; empty for
    /// {prefix}-{MM}{dd}-{n}.</summary>
    public string BatchPattern { get; set; } = "";

    /// <summary>How it has to be handled, and what it is dangerous by.</summary>
    public GoodsMarks Marks { get; set; } = new();

    public PickRateClass PickRateClass { get; set; } = PickRateClass.C;

    /// <summary>Zone where it is at home, or empty.</summary>
    public string HomeZone { get; set; } = "";

    public int? InspectionPlanId { get; set; }

    public List<PackLevel> PackLevels { get; init; } = [];
    public List<VendorCode> VendorCodes { get; init; } = [];

    /// <summary>The base unit in a word for the screen.</summary>
    public string UnitWord => Units.Word(BaseUnit);

    /// <summary>The pack level of one base unit; there is always one.</summary>
    public PackLevel BasePack => PackLevels.First(p => p is { Numerator: 1, Denominator: 1, IsMeasure: false });

    /// <summary>The largest pack level that divides a quantity; base units when none does.</summary>
    public PackLevel LargestPackOf(decimal quantity) =>
        PackLevels.Where(p => quantity % p.Content(1) == 0).MaxBy(p => p.Content(1)) ?? BasePack;

    /// <summary>The pack level of a name, each of which can get a label; null for a measure.</summary>
    public PackLevel? LabelledPack(string name) => PackLevels.Find(p => p.Name == name && !p.IsMeasure);

    /// <summary>The pack level of this name, or the unit of measure of this word in which the item may be measured too; null when it is
    /// neither.</summary>
    public PackLevel? PackOrMeasure(string name)
    {
        if (PackLevels.Find(p => p.Name == name) is { } pack)
            return pack;
        var unit = Units.Others(BaseUnit).FirstOrDefault(u => u.Word == name);
        return unit is not null && Units.Ratio(unit.Code, BaseUnit) is { } ratio
            ? new PackLevel
            {
                Name = name,
                Numerator = ratio.Numerator,
                Denominator = ratio.Denominator,
                IsMeasure = true,
            }
            : null;
    }
}

/// <summary>each, inner, case, layer, pallet …: how many base units it holds, as an exact ratio.</summary>
public sealed class PackLevel
{
    public int Id { get; init; }

    /// <summary>In the singular, as on the floor: "sack", "carton", "pallet".</summary>
    public required string Name { get; set; }

    public required long Numerator { get; set; }
    public long Denominator { get; set; } = 1;

    /// <summary>GTIN in 14 digits, or null.</summary>
    public string? Gtin { get; set; }

    /// <summary>Other barcodes that were bound to this pack at a door.</summary>
    public List<string> OtherCodes { get; set; } = [];

    /// <summary>True when each one is a logistic unit with a label of its own.</summary>
    public bool IsUnit { get; set; }

    /// <summary>Package type by UN/ECE Recommendation 21: PX pallet, CT carton; empty when nobody has said.</summary>
    public string PackageType { get; set; } = "";

    /// <summary>True for a unit of measure that stands in the place of a pack: it need not be a whole number.</summary>
    public bool IsMeasure { get; init; }

    /// <summary>Base units in so many packs. Exact.</summary>
    public decimal Content(decimal packs) => packs * Numerator / Denominator;
}

/// <summary>What a vendor calls an item of ours.</summary>
public sealed class VendorCode
{
    public int Id { get; init; }
    public required int VendorId { get; init; }
    public required string Code { get; set; }
}
