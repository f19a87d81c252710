using Microsoft.AspNetCore.Routing;
using MudRoom.Core;
using MudRoom.Server.Acts;
using MudRoom.Server.Bench;
using MudRoom.Server.Book;
using MudRoom.Server.Cage;
using MudRoom.Server.Demo;
using MudRoom.Server.Door;
using MudRoom.Server.Out;
using MudRoom.Server.Road;
using MudRoom.Server.Shelf;
using MudRoom.Server.SignIn;
using MudRoom.Server.Site;
using MudRoom.Server.Yard;

namespace MudRoom.Server.Hosting;

/// <summary>All that the server answers.</summary>
static class Endpoints
{
    /// <summary>All rooms, and what no room answers.</summary>
    public static void Map(WebApplication app)
    {
        app.MapOpenApi("/api/openapi.json").AllowAnonymous();
        Session.Map(app);
        app.MapHub<LiveHub>("/live");
        var routes = new SiteRoutes(app);
        HealthPages.Map(app, routes);
        House.Map(routes);
        Notices.Map(routes);
        Board.Map(routes);
        DayBoard.Map(routes);
        PlanActs.Map(routes);
        DueList.Map(routes);
        ArrivalPage.Map(routes);
        Orders.Map(routes);
        ImportOrders.Map(routes, app.Services.GetRequiredService<ImportProgress>());
        RefusedFilePages.Map(routes, app.Services.GetRequiredService<RefusedFiles>());
        SetUpFiles.Map(routes, app.Services.GetRequiredService<ImportProgress>());
        Badges.Map(routes);
        Partner.Map(routes, app.Services.GetRequiredService<ServerSettings>());
        MakeArrival.Map(routes);
        AtDoor.Map(routes);
        OpenOrders.Map(routes);
        ChangeArrival.Map(routes);
        OnTheWay.Map(routes);
        Attachments.Map(routes);
        OrderActs.Map(routes);
        ReceivedList.Map(routes);
        Calls.Map(routes);
        GateActs.Map(routes);
        YardPage.Map(routes);
        ReadScan.Map(routes);
        TallyPage.Map(routes);
        CountGoods.Map(routes);
        WantedDetail.Map(routes);
        TakeBack.Map(routes);
        CloseTally.Map(routes);
        ReopenTally.Map(routes);
        ArrivalPrints.Map(routes);
        Claims.Map(routes);
        CountedBy.Map(routes);
        TallyQuestions.Map(routes);
        SecondCounts.Map(routes);
        PaperTally.Map(routes);
        NotCounted.Map(routes);
        Scales.Map(routes, app.Services.GetRequiredService<ScaleStore>());
        ReceiptPage.Map(routes);
        UnannouncedReturn.Map(routes);
        Outwork.Map(routes);
        RestAsOrdered.Map(routes);
        AdvisedUnits.Map(routes);
        UnitLabel.Map(routes);
        UnitNumbers.Map(routes);
        PrintDesk.Map(routes);
        QueuePages.Map(routes);
        BenchPages.Map(routes);
        BenchActs.Map(routes);
        FindingActs.Map(routes);
        InspectorsHands.Map(routes);
        AskedFor.Map(routes);
        SampleActs.Map(routes);
        SheetPictures.Map(routes);
        LongInStore.Map(routes);
        TellBuyer.Map(routes);
        ReturnActs.Map(routes);
        ReturnPages.Map(routes);
        InspectionRulePages.Map(routes);
        GaugePages.Map(routes, app.Services.GetRequiredService<GaugeLines>());
        SheetProof.Map(routes);
        PlanPages.Map(routes);
        ComingPages.Map(routes);
        PlanDrafts.Map(routes);
        CagePages.Map(routes);
        HoldRulePages.Map(routes);
        HoldsAhead.Map(routes);
        CageCalendarPage.Map(routes);
        CageActs.Map(routes);
        RecallActs.Map(routes);
        RecallPages.Map(routes);
        Conditions.Map(routes);
        Decisions.Map(routes);
        CarryingOut.Map(routes);
        Concessions.Map(routes);
        MailActs.Map(routes);
        CageSettingsPage.Map(routes);
        ShelfPages.Map(routes);
        ShelfActs.Map(routes);
        BookPages.Map(routes);
        StandingsPage.Map(routes);
        UndoActs.Map(routes);
        OutPages.Map(routes);
        IssueGoods.Map(routes);
        Reservations.Map(routes);
        CorrectSourceBatch.Map(routes);
        SitePages.Map(routes);
        PlanningPage.Map(routes);
        HousePage.Map(routes);
        DoorSettingsPage.Map(routes);
        ItemPage.Map(routes);
        VendorPage.Map(routes);
        RosterPage.Map(routes);
        DemoPages.Map(routes, app.Services.GetService<DemoClock>());
        TenMinutes.Map(app, routes);
        app.Map("/api/{**rest}", () =>
                Problems.Of(new Refusal(HouseRefusals.NotFound, "There is nothing at this address.", "Look at the address."))
            )
            .AllowAnonymous()
            .ExcludeFromDescription()
            .WithOrder(int.MaxValue - 1);
    }

    /// <summary>Every address that is neither file nor interface is a page of the front end, dots and all; but where files lie, a file
    /// that is not there is none, so that nobody keeps a page in its place.</summary>
    public static void MapWeb(WebApplication app, string web)
    {
        var index = Path.Combine(web, "index.html");
        foreach (var files in (string[])["/_app/{**file}", "/printed/{**file}"])
            app.MapGet(files, () => Results.NotFound()).AllowAnonymous().ExcludeFromDescription().WithOrder(int.MaxValue - 1);
        app.MapGet("/{**page}", (HttpContext http) =>
            {
                http.Response.Headers.CacheControl = "no-cache";
                // Tells the page from one that a gateway or portal shows in its place.
                http.Response.Headers["Mud-Room"] = "page";
                return Results.File(index, "text/html; charset=utf-8");
            })
            .AllowAnonymous()
            .ExcludeFromDescription()
            .WithOrder(int.MaxValue);
    }

    /// <summary>Endpoints are described here, once: what has mapped them describes them anew each time it is asked.</summary>
    public static void MakeOnce(IEndpointRouteBuilder routes)
    {
        var made = routes.DataSources.SelectMany(source => source.Endpoints).ToList();
        routes.DataSources.Clear();
        routes.DataSources.Add(new DefaultEndpointDataSource(made));
    }
}
