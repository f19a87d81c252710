namespace MudRoom.Core.Site;

/// <summary>What a bin is for.</summary>
public enum BinFunction
{
    Pick,
    Reserve,
    Floor,
    Staging,
    Bench,
    Cage,
    Scrap,
    Dispatch,

    /// <summary>A truck, a trolley, or the hands of a person: goods that are on their way are in it.</summary>
    Truck,
}

/// <summary>The smallest addressed place: site › zone › aisle › bay › level › bin.</summary>
public sealed class Bin
{
    public int Id { get; init; }
    public required int SiteId { get; init; }

    /// <summary>As on its label: C-12-2.</summary>
    public required string Address { get; init; }

    public required string Zone { get; set; }
    public string Aisle { get; set; } = "";
    public int Bay { get; set; }
    public int Level { get; set; }
    public required BinFunction Function { get; set; }
    public StorageClass StorageClass { get; set; } = StorageClass.Ambient;

    /// <summary>Kilograms it carries.</summary>
    public decimal MaxMass { get; set; }

    /// <summary>Litres it holds.</summary>
    public decimal MaxVolume { get; set; }

    /// <summary>Longest side of goods that go in, in metres.</summary>
    public decimal MaxLength { get; set; }

    public bool MixItems { get; set; }
    public bool MixBatches { get; set; }
    public bool Blocked { get; set; }

    /// <summary>Metres from the west wall, in the plan of the site.</summary>
    public decimal X { get; set; }

    /// <summary>Metres from the wall with the doors.</summary>
    public decimal Y { get; set; }

    /// <summary>Metres above the floor.</summary>
    public decimal Height { get; set; }

    /// <summary>For a truck: the person who drives or carries; null for other places.</summary>
    public int? CarriedBy { get; init; }

    /// <summary>For a staging place: the door it belongs to.</summary>
    public int? DoorId { get; set; }
}

/// <summary>A door where vehicles are unloaded.</summary>
public sealed class DockDoor
{
    public int Id { get; init; }
    public required int SiteId { get; init; }
    public required int Number { get; init; }

    /// <summary>What it is good for: "ramp, container".</summary>
    public string Equipment { get; set; } = "";

    /// <summary>Kinds of vehicle it is built for: truck, container, van, parcel.</summary>
    public List<string> Vehicles { get; set; } = ["truck", "container", "van", "parcel"];

    /// <summary>Special storage classes whose goods may go through it: cold, oxidiser, gas.</summary>
    public List<StorageClass> Special { get; set; } = [];

    /// <summary>Metres from the west wall.</summary>
    public decimal X { get; set; }
}
