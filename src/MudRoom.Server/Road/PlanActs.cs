using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Book;
using MudRoom.Core.Door;
using MudRoom.Core.Road;
using MudRoom.Core.Site;
using MudRoom.Planning;
using MudRoom.Server.Acts;

namespace MudRoom.Server.Road;

/// <summary>A move on the day board.</summary>
/// <param name="Door">Null takes it off its door.</param>
/// <param name="Start">Wall clock; the day with it.</param>
/// <param name="Crew">Null keeps the crew, or finds one that is free.</param>
/// <param name="Version">The version of the plan the planner looked at.</param>
/// <param name="Reason">Why an advisory rule is overruled.</param>
public sealed record PlanRequest(string Arrival, int? Door, DateTime Start, IReadOnlyList<int>? Crew, int Version, string? Reason);

/// <summary>What a move would come to.</summary>
/// <param name="Nearest">The nearest plan that keeps all rules; null when this one does with the crew it has, or when there is
/// none.</param>
public sealed record PlanCheckAnswer(IReadOnlyList<BrokenView> Broken, PlanOffer? Nearest);

/// <summary>A plan that is offered.</summary>
public sealed record PlanOffer(
    int Door,
    DateTime Start,
    DateTime End,
    IReadOnlyList<int> Crew,
    IReadOnlyList<string> CrewNames,
    string Sentence
);

/// <summary>A day to be planned, and how long may be searched, in seconds.</summary>
public sealed record ProposeRequest(DateOnly Date, int? Seconds);

/// <summary>One arrival of a proposed day.</summary>
/// <param name="Changed">True when it differs from the plan as it stands.</param>
public sealed record ProposedMove(
    string Arrival,
    string Vendors,
    int? FromDoor,
    DateTime FromStart,
    int Door,
    DateTime Start,
    DateTime End,
    IReadOnlyList<int> Crew,
    IReadOnlyList<string> CrewNames,
    bool Changed,
    string Why,
    int Version
);

/// <summary>An arrival that found no place, and the rule that stands in the way.</summary>
public sealed record NotPlaced(string Arrival, string Vendors, string Why);

/// <summary>A proposed day.</summary>
/// <param name="Gap">0 when nothing better exists; else how far it may be from the best, 0 to 1.</param>
public sealed record ProposedDayAnswer(
    IReadOnlyList<ProposedMove> Moves,
    IReadOnlyList<NotPlaced> NotPlaced,
    long Lateness,
    long Waiting,
    long LatenessNow,
    long WaitingNow,
    bool Proven,
    double Gap,
    double Seconds,
    string Sentence
);

/// <summary>Takes moves of a proposal: all of them or none.</summary>
public sealed record TakeProposalRequest(IReadOnlyList<PlanRequest> Moves);

/// <summary>A new time at which an arrival is thought to come.</summary>
/// <param name="Source">Who said so.</param>
public sealed record EtaRequest(string Arrival, DateTime Eta, string Source);

/// <summary>Plans arrivals: by hand with the rules, or a whole day by proposal.</summary>
public static class PlanActs
{
    const int MostSeconds = 30;

    public static void Map(SiteRoutes routes)
    {
        routes.Check<PlanRequest, Results<Ok<PlanCheckAnswer>, ProblemHttpResult>>("/road/plan/check", Right.PlanArrivals, Check);
        routes.Check<ProposeRequest, Results<Ok<ProposedDayAnswer>, ProblemHttpResult>>("/road/plan/propose", Right.PlanArrivals, Propose);
        routes.Act<PlanRequest, DoneAnswer>("/road/plan", Right.PlanArrivals, Run);
        routes.Act<TakeProposalRequest, DoneAnswer>("/road/plan/take", Right.PlanArrivals, Take);
        routes.Act<EtaRequest, DoneAnswer>("/road/eta", Right.PlanArrivals, Eta);
    }

    static async Task<Results<Ok<PlanCheckAnswer>, ProblemHttpResult>> Check(Inquiry inquiry, PlanRequest request)
    {
        if (Absurd(inquiry.Today, request.Start) is { } absurd)
            return Problems.Of(absurd);
        var day = await SiteDay.Read(inquiry, DateOnly.FromDateTime(request.Start), request.Arrival);
        if (day.Find(request.Arrival) is not { } load)
            return Problems.Of(Problems.NotFound("arrival", request.Arrival));
        if (request.Door is not { } door)
            return TypedResults.Ok(new PlanCheckAnswer([], null));
        var place = Best(day, load, door, request.Start, request.Crew);
        var broken = PlanCheck.Check(day.Day, load.Plan, place, day.Placements);
        // Where only another crew was wanted, that is the offer.
        var otherCrew = request.Crew is null && !place.Crew.SequenceEqual(load.Arrival.Crew) ? place : null;
        var nearest =
            broken.Count == 0 ? otherCrew : PlanCheck.Nearest(day.Day, load.Plan, door, request.Start, place.Crew, Others(day, load));
        return TypedResults.Ok(
            new PlanCheckAnswer(
                [.. broken.Select(b => new BrokenView(b.Rule, b.Force, b.Sentence, false))],
                nearest is null ? null : Offer(inquiry.SetUp, nearest)
            )
        );
    }

    public static async Task<Outcome<DoneAnswer>> Run(Act act, PlanRequest request)
    {
        if (Absurd(act.Today, request.Start) is { } absurd)
            return absurd;
        var moved = await Move(act, request);
        if (moved.Refused(out var refusal))
            return refusal;
        act.Touch("road", "house", "yard", "arrival:" + request.Arrival);
        return new DoneAnswer(moved.Value);
    }

    public static async Task<Outcome<DoneAnswer>> Take(Act act, TakeProposalRequest request)
    {
        var moves = request.Moves ?? [];
        if (moves.Count is 0 or > 300)
            return new Refusal(RoadRefusals.MovesMissing, "No move was chosen.", "Choose at least one arrival of the proposal.");
        if (moves.Select(m => m.Arrival).Distinct().Count() != moves.Count)
            return new Refusal(RoadRefusals.MovesTwice, "An arrival is in it twice.", "Ask for a new proposal.");
        // All are taken off first, so that those which change places do not stand in each other's way.
        foreach (var move in moves)
        {
            if (Absurd(act.Today, move.Start) is { } absurd)
                return absurd;
            if (move.Door is null)
                return new Refusal(HouseRefusals.DoorMissing, $"{move.Arrival} has no door.", "Ask for a new proposal.");
            var arrival = await act.Db.Arrivals.Numbered(act.Site, move.Arrival);
            if (arrival is null)
                return Problems.NotFound("arrival", move.Arrival);
            if (arrival.Plan(null, arrival.Planned, [], [], move.Version, act.Person.Name, act.Now, act.Site.LocalTime) is { } refusal)
                return refusal;
        }

        await act.Db.SaveChangesAsync();
        foreach (var move in moves.OrderBy(m => m.Start))
        {
            var moved = await Move(act, move with { Version = move.Version + 1, Reason = move.Reason ?? "as proposed" });
            if (moved.Refused(out var refusal))
                return refusal;
            await act.Db.SaveChangesAsync();
        }

        act.Touch("road", "house", "yard");
        return new DoneAnswer($"{moves.Count} {(moves.Count == 1 ? "arrival is" : "arrivals are")} planned as proposed.");
    }

    public static async Task<Outcome<DoneAnswer>> Eta(Act act, EtaRequest request)
    {
        if (Absurd(act.Today, request.Eta) is { } absurd)
            return absurd;
        var arrival = await act.Db.Arrivals.Numbered(act.Site, request.Arrival);
        if (arrival is null)
            return Problems.NotFound("arrival", request.Arrival);
        var source = (request.Source ?? "").Trim();
        if (source.Length is 0 or > 60)
            return new Refusal(
                RoadRefusals.SourceMissing,
                "Say who gave the new time, in at most 60 characters.",
                "Type haulier, shipping line, vendor or driver."
            );
        if (arrival.State != ArrivalState.Expected)
            return new Refusal(RoadRefusals.AlreadyOnSite, $"{arrival.Number} is on site already.", "Its time is known.");
        var change = arrival.Expect(act.Site.Instant(request.Eta), source, act.Person.Name, act.Now);
        act.Db.EtaChanges.Add(change);
        act.Write(new EtaGiven(arrival.Number, act.Site.Instant(request.Eta), source));
        await act.Db.SaveChangesAsync();
        await Coming.Renew(act, await act.Db.ManifestLines.Where(m => m.ArrivalId == arrival.Id).Select(m => m.PartId).ToListAsync());
        act.Touch("road", "house", "yard", "arrival:" + arrival.Number);
        return new DoneAnswer($"{arrival.Number} is thought to come {request.Eta:ddd d MMM HH:mm}.");
    }

    /// <summary>One move, with the rules; what it came to in a sentence.</summary>
    static async Task<Outcome<string>> Move(Act act, PlanRequest request)
    {
        var arrival = await act.Db.Arrivals.Numbered(act.Site, request.Arrival);
        if (arrival is null)
            return Problems.NotFound("arrival", request.Arrival);
        if (arrival.MayBePlanned(request.Version, act.Site.LocalTime) is { } notNow)
            return notNow;
        if (request.Door is not { } number)
        {
            if (
                arrival.Plan(
                    null,
                    act.Site.Instant(request.Start),
                    [],
                    [],
                    request.Version,
                    act.Person.Name,
                    act.Now,
                    act.Site.LocalTime
                ) is
                { } no
            )
                return no;
            act.Write(new TakenOffDoor(arrival.Number));
            return $"{arrival.Number} has no door now.";
        }

        var door = act.SetUp.Doors.Values.FirstOrDefault(d => d.SiteId == act.Site.Id && d.Number == number);
        if (door is null)
            return Problems.NotFound("door", number.ToString());
        var past = await PastLoads.Read(act.Db, act.Site.Id, act.Site.Instant(act.Today.ToDateTime(TimeOnly.MinValue)), act.PlanSettings);
        var day = await SiteDay.Read(act.Db, act.SetUp, act.Site, DateOnly.FromDateTime(request.Start), act.Now, past, arrival.Number);
        var load = day.Find(arrival.Number)!;
        var place = Best(day, load, number, request.Start, request.Crew);
        var broken = PlanCheck.Check(day.Day, load.Plan, place, day.Placements);
        if (broken.FirstOrDefault(b => b.Force == RuleForce.Hard) is { } hard)
            return new Refusal(
                RoadRefusals.PlanBreaksRule,
                hard.Sentence,
                PlanCheck.Nearest(day.Day, load.Plan, number, request.Start, place.Crew, Others(day, load)) is { } nearest
                    ? Offer(act.SetUp, nearest).Sentence
                    : "No plan of that day keeps all rules."
            );
        var reason = (request.Reason ?? "").Trim();
        if (broken.Count > 0 && reason.Length == 0)
            return new Refusal(
                RoadRefusals.PlanWarns,
                broken[0].Sentence,
                "Say why it is planned so all the same, or choose another time."
            );
        if (reason.Length > 200)
            return new Refusal(HouseRefusals.NoteLong, "The reason has more than 200 characters.", "Shorten it.");
        var was = arrival.PlannedDoorId is { } before ? act.SetUp.Doors.GetValueOrDefault(before) : null;
        var wasAt = arrival.Planned;
        var overruled = broken.Select(b => new Overruling(b.Rule, reason, act.Person.Name, act.Now)).ToList();
        if (
            arrival.Plan(
                door,
                act.Site.Instant(request.Start),
                place.Crew,
                overruled,
                request.Version,
                act.Person.Name,
                act.Now,
                act.Site.LocalTime
            ) is
            { } refusal
        )
            return refusal;
        var crew = place.Crew.Select(id => act.SetUp.People[id].Name).ToList();
        act.Write(
            new PlannedAtDoor(
                arrival.Number,
                number,
                act.Site.Instant(request.Start),
                crew,
                was?.Number,
                was is null ? null : wasAt,
                [.. overruled.Select(o => o.Rule)],
                overruled.Count > 0 ? reason : null
            )
        );
        await act.Db.SaveChangesAsync();
        await Coming.Renew(act, await act.Db.ManifestLines.Where(m => m.ArrivalId == arrival.Id).Select(m => m.PartId).ToListAsync());
        return $"{arrival.Number} is at door {number} at {request.Start:HH:mm} with {string.Join(" and ", crew)}.";
    }

    static async Task<Results<Ok<ProposedDayAnswer>, ProblemHttpResult>> Propose(Inquiry inquiry, ProposeRequest request)
    {
        if (Math.Abs(request.Date.DayNumber - inquiry.Today.DayNumber) > 400)
            return Problems.Of(new Refusal(HouseRefusals.DateAbsurd, "That day is more than a year away.", "Look at the date."));
        var day = await SiteDay.Read(inquiry, request.Date);
        var open = day.Loads.Where(l => l.Arrival.State <= ArrivalState.AtDoor).ToList();
        var plan = day.Day with { Loads = [.. open.Select(l => l.Plan)] };
        var before = open.Select(l => l.Placement).OfType<Placement>().ToList();
        var proposed = await Task.Run(() => DayProposal.Propose(plan, day.Now, before, Math.Clamp(request.Seconds ?? 8, 1, MostSeconds)));
        var moves = proposed
            .Placements.Where(p => !plan.Loads.First(l => l.Number == p.Number).Fixed)
            .OrderBy(p => p.Start)
            .Select(p => MoveOf(inquiry, day, plan, p))
            .ToList();
        var notPlaced = proposed
            .Unplaced.Select(number => new NotPlaced(
                number,
                Vendors(inquiry, day.Find(number)!),
                PlanReasons.WhyNot(plan, plan.Loads.First(l => l.Number == number), proposed.Placements)
            ))
            .ToList();
        var (lateness, waiting) = (
            DayProposal.Lateness(plan, before.Where(p => moves.Any(m => m.Arrival == p.Number))),
            DayProposal.Waiting(plan, before.Where(p => moves.Any(m => m.Arrival == p.Number)))
        );
        var changed = moves.Count(m => m.Changed);
        var sentence =
            changed == 0 && notPlaced.Count == 0
                ? "The plan as it stands is as good as any."
                : $"{changed} {(changed == 1 ? "arrival changes" : "arrivals change")}"
                    + (notPlaced.Count > 0 ? $", {notPlaced.Count} found no place. " : ". ")
                    + (
                        proposed.Proven
                            ? "Nothing better exists."
                            : $"The best found in {proposed.Seconds:0} s; at most {proposed.Gap:P0} from the best there can be."
                    );
        return TypedResults.Ok(
            new ProposedDayAnswer(
                moves,
                notPlaced,
                proposed.Lateness,
                proposed.Waiting,
                lateness,
                waiting,
                proposed.Proven,
                proposed.Gap,
                proposed.Seconds,
                sentence
            )
        );
    }

    static ProposedMove MoveOf(Inquiry inquiry, SiteDay day, DayToPlan plan, Placement p)
    {
        var load = day.Find(p.Number)!;
        var was = load.Placement;
        var changed =
            was is null
            || was.Door != p.Door
            || Math.Abs((was.Start - p.Start).TotalMinutes) >= DayProposal.Grid
            || !was.Crew.Order().SequenceEqual(p.Crew.Order());
        return new ProposedMove(
            p.Number,
            Vendors(inquiry, load),
            was?.Door,
            was?.Start ?? inquiry.Local(load.Arrival.Planned),
            p.Door,
            p.Start,
            p.End,
            p.Crew,
            [.. p.Crew.Select(id => inquiry.SetUp.People[id].Name)],
            changed,
            !changed ? "stays" : PlanReasons.Why(load.Plan, was, p, day.Broken(load)),
            load.Arrival.PlanVersion
        );
    }

    static string Vendors(Inquiry inquiry, DayLoad load) => string.Join(", ", load.Vendors.Select(v => inquiry.SetUp.Vendors[v].Name));

    /// <summary>The place that was asked for; with no crew named, the crew it has, or else the first that breaks no rule.</summary>
    static Placement Best(SiteDay day, DayLoad load, int door, DateTime start, IReadOnlyList<int>? crew)
    {
        var asked = day.Day.Place(load.Plan, door, start, crew ?? load.Arrival.Crew);
        if (crew is not null || PlanCheck.Check(day.Day, load.Plan, asked, day.Placements).Count == 0)
            return asked;
        return PlanCheck.WithCrew(day.Day, load.Plan, asked, Others(day, load));
    }

    static List<Placement> Others(SiteDay day, DayLoad load) => [.. day.Placements.Where(p => p.Number != load.Arrival.Number)];

    static PlanOffer Offer(SetUp setUp, Placement p)
    {
        IReadOnlyList<string> names = [.. p.Crew.Select(id => setUp.People[id].Name)];
        return new PlanOffer(
            p.Door,
            p.Start,
            p.End,
            p.Crew,
            names,
            $"Door {p.Door} at {p.Start:HH:mm} with {string.Join(" and ", names)} keeps all rules."
        );
    }

    static Refusal? Absurd(DateOnly today, DateTime at) =>
        Math.Abs(DateOnly.FromDateTime(at).DayNumber - today.DayNumber) > 400
            ? new Refusal(HouseRefusals.DateAbsurd, $"{at:yyyy-MM-dd} is more than a year away.", "Look at the date.")
            : null;
}
