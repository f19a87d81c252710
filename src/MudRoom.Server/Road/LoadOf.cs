using MudRoom.Core.Road;
using MudRoom.Server.Acts;

namespace MudRoom.Server.Road;

/// <summary>What a load looks like from the line parts that go aboard.</summary>
static class LoadOf
{
    public static Handling Handling(SetUp setUp, string? vehicle, IEnumerable<LinePart> parts) =>
        LoadRules.Handling(string.IsNullOrWhiteSpace(vehicle) ? "truck" : vehicle.Trim(), parts.Select(p => setUp.Catalogue[p.ItemId]));

    public static int Units(SetUp setUp, Handling handling, IEnumerable<LinePart> parts) =>
        LoadRules.Units(handling, parts.Select(p => (setUp.Catalogue[p.ItemId], p.Open)));
}
