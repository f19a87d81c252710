using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Book;
using MudRoom.Core.Shelf;
using MudRoom.Core.Site;
using MudRoom.Server.Acts;

namespace MudRoom.Server.Shelf;

/// <summary>What a driver has on the forks, a trolley or in hand is in a place: one for each driver of a site, made when it is first
/// wanted.</summary>
public static class Trucks
{
    /// <summary>The driver's own.</summary>
    /// <param name="near">Where it stands when it is made.</param>
    static async Task<Bin> Own(Act act, Bin near)
    {
        if (await act.Db.Bins.FirstOrDefaultAsync(b => b.SiteId == act.Site.Id && b.CarriedBy == act.Person.Id) is { } own)
            return own;
        var name = "TRUCK-" + act.Person.SignInName.ToUpperInvariant();
        var address = name;
        for (var i = 2; act.SetUp.BinsByAddress.ContainsKey((act.Site.Id, address)); i++)
            address = $"{name}-{i}";
        own = new Bin
        {
            SiteId = act.Site.Id,
            Address = address,
            Zone = "on the way",
            Function = BinFunction.Truck,
            CarriedBy = act.Person.Id,
            MixItems = true,
            MixBatches = true,
            X = near.X,
            Y = near.Y,
        };
        act.Db.Bins.Add(own);
        await act.RenewSetUp(SetUpParts.Bins);
        act.Write(new TruckMade(address, act.Person.Name) { About = [Reference.Bin(own.Id)] });
        return own;
    }

    /// <summary>Loads the goods of a task onto the driver's truck; nothing where they are on it already.</summary>
    public static async Task Load(Act act, StoreTask task)
    {
        var (item, from) = (act.SetUp.Catalogue[task.ItemId], act.SetUp.Address(task.AtBinId));
        var truck = await Own(act, act.SetUp.Bins[task.AtBinId]);
        if (task.AtBinId != truck.Id)
            await act.Move(
                of => new GoodsLoaded(truck.Address, Amount.Of(of, item), from),
                task.Goods,
                task.Quantity,
                task.At,
                Place.In(truck.Id, task.Standing)
            );
        task.Load(truck.Id);
    }

    /// <summary>Puts the goods of a task back where it took them; nothing where they still stand there.</summary>
    public static async Task Unload(Act act, StoreTask task)
    {
        var (item, from, to) = (act.SetUp.Catalogue[task.ItemId], act.SetUp.Address(task.AtBinId), act.SetUp.Address(task.FromBinId));
        if (task.AtBinId != task.FromBinId)
            await act.Move(
                of => new BroughtBack(to, Amount.Of(of, item), from),
                task.Goods,
                task.Quantity,
                task.At,
                Place.In(task.FromBinId, task.Standing)
            );
    }
}
