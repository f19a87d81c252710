using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Book;
using MudRoom.Core.Shelf;
using MudRoom.Data;

namespace MudRoom.Server.Shelf;

/// <summary>Jobs that drivers have taken.</summary>
public static class TakenJobs
{
    /// <summary>Those that take from these goods at this place.</summary>
    public static Task<List<PutAwayJob>> From(MudRoomDb db, Goods goods, Place place) =>
        db
            .Jobs.Where(j =>
                j.State == JobState.Taken
                && j.FromBinId == place.BinId
                && j.ItemId == goods.ItemId
                && j.BatchId == goods.BatchId
                && j.UnitId == goods.UnitId
                && j.Serial == goods.Serial
                && j.Standing == place.Standing
            )
            .ToListAsync();
}
