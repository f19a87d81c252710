namespace MudRoom.Core.Site;

/// <summary>Who sells it to us.</summary>
public sealed class Vendor
{
    public int Id { get; init; }
    public required string Code { get; init; }
    public required string Name { get; set; }

    /// <summary>Global Location Number of 13 digits by which messages name it; null for none.</summary>
    public string? Gln { get; set; }

    /// <summary>ISO 3166 two-letter code.</summary>
    public required string Country { get; set; }

    public string? ContactName { get; set; }
    public string? Telephone { get; set; }
    public string? Mail { get; set; }

    /// <summary>Days that must remain when goods of theirs come in; the longer of this and the item's own rules. Null for the item's
    /// alone.</summary>
    public int? MinimumRemainingDays { get; set; }
}
