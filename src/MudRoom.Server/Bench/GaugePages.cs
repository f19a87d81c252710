using System.Collections.Concurrent;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Bench;
using MudRoom.Core.Site;
using MudRoom.Server.Acts;

namespace MudRoom.Server.Bench;

/// <summary>Keeps a gauge with the last day of its calibration; the one of that name, where there is one.</summary>
/// <param name="Until">Null for one that needs none.</param>
public sealed record KeepGaugeRequest(string Name, DateOnly? Until);

/// <summary>Keeps a gauge no longer.</summary>
public sealed record DropGaugeRequest(string Name);

/// <summary>A gauge of the site.</summary>
/// <param name="Why">Why it may not be read today; null where it may.</param>
/// <param name="Plans">Plans in force that measure with it.</param>
public sealed record GaugeView(string Name, DateOnly? Until, string? Why, IReadOnlyList<string> Plans, string By, DateTime At);

/// <summary>A line as the reader program sends it: "caliper 212.4 mm".</summary>
/// <param name="Line">In the form of gauges.</param>
/// <param name="Id">The same for a line that is sent again.</param>
public sealed record GaugeLineRequest(string Line, Guid Id);

/// <summary>A line that a reader program sent.</summary>
/// <param name="Seq">Ever greater.</param>
public sealed record GaugeLineView(long Seq, string Line, string By);

/// <summary>What reader programs sent since a line, at most a minute ago.</summary>
/// <param name="Last">The newest line there is, from which the next ask goes on.</param>
public sealed record GaugeLinesAnswer(long Last, IReadOnlyList<GaugeLineView> Lines);

/// <summary>The lines that reader programs sent in the last minute; in memory only, for a reading is no finding until it is on a
/// sheet.</summary>
public sealed class GaugeLines
{
    const int Most = 200;
    static readonly TimeSpan fresh = TimeSpan.FromMinutes(1);

    readonly ConcurrentDictionary<string, Queue<(GaugeLineView Line, Guid Id, DateTimeOffset At)>> bySite = new();
    long seq;

    /// <summary>Keeps a line; one that came before is not kept twice.</summary>
    public GaugeLineView Keep(string site, GaugeLineRequest line, string by, DateTimeOffset at)
    {
        var lines = bySite.GetOrAdd(site, _ => new Queue<(GaugeLineView, Guid, DateTimeOffset)>());
        lock (lines)
        {
            if (lines.FirstOrDefault(l => l.Id == line.Id) is { Line: { } there })
                return there;
            while (lines.Count >= Most || lines.TryPeek(out var oldest) && at - oldest.At > fresh)
                lines.Dequeue();
            var kept = new GaugeLineView(Interlocked.Increment(ref seq), line.Line.Trim(), by);
            lines.Enqueue((kept, line.Id, at));
            return kept;
        }
    }

    /// <summary>The lines behind one.</summary>
    public GaugeLinesAnswer After(string site, long after, DateTimeOffset now)
    {
        if (!bySite.TryGetValue(site, out var lines))
            return new GaugeLinesAnswer(Interlocked.Read(ref seq), []);
        lock (lines)
        {
            return new GaugeLinesAnswer(
                Interlocked.Read(ref seq),
                [.. lines.Where(l => l.Line.Seq > after && now - l.At <= fresh).Select(l => l.Line)]
            );
        }
    }
}

/// <summary>The gauges of a site, until when they are calibrated, and what reader programs send of them.</summary>
public static class GaugePages
{
    public static void Map(SiteRoutes routes, GaugeLines lines)
    {
        routes.Ask("/bench/gauges", Right.See, List);
        routes.Act<KeepGaugeRequest, DoneAnswer>("/bench/gauges/keep", Right.KeepPlans, Keep);
        routes.Act<DropGaugeRequest, DoneAnswer>("/bench/gauges/drop", Right.KeepPlans, Drop);
        routes.Ask("/bench/gauges/lines", Right.Inspect, (Inquiry inquiry, long after = 0) =>
            TypedResults.Ok(lines.After(inquiry.Site.Code, after, inquiry.Now))
        );
        routes.Check<GaugeLineRequest, Results<Ok<GaugeLineView>, ProblemHttpResult>>(
            "/bench/gauges/line",
            Right.Inspect,
            (inquiry, line) => Task.FromResult(Sent(inquiry, line, lines))
        );
    }

    /// <summary>Why a gauge may not be read today; null where it may, or where nobody keeps it.</summary>
    public static async Task<Refusal?> Overdue(Act act, string name) => (await Load(act, name))?.MayRead(act.Today);

    static async Task<Ok<IReadOnlyList<GaugeView>>> List(Inquiry inquiry)
    {
        var kept = await inquiry.Db.Gauges.Where(g => g.SiteId == inquiry.Site.Id).OrderBy(g => g.Name).Take(500).ToListAsync();
        var plans = inquiry
            .SetUp.Plans.Values.SelectMany(p =>
                (p.InForce(inquiry.Now)?.Content.Characteristics ?? [])
                    .Select(c => c.Gauge)
                    .OfType<string>()
                    .Distinct()
                    .Select(g => (Gauge: g, Plan: p.Name))
            )
            .ToLookup(g => g.Gauge, g => g.Plan, StringComparer.OrdinalIgnoreCase);
        return TypedResults.Ok<IReadOnlyList<GaugeView>>([
            .. kept.Select(g => new GaugeView(
                    g.Name,
                    g.CalibratedUntil,
                    g.MayRead(inquiry.Today)?.Sentence,
                    [.. plans[g.Name]],
                    g.KeptBy,
                    inquiry.Local(g.KeptAt)
                ))
                .OrderBy(g => g.Why is null)
                .ThenBy(g => g.Until ?? DateOnly.MaxValue),
        ]);
    }

    public static async Task<Outcome<DoneAnswer>> Keep(Act act, KeepGaugeRequest request)
    {
        if (request.Name.OrNull() is not { Length: <= Gauge.MostName } name || Gauges.Read($"{name} 1") is not { Gauge: not null })
            return new Refusal(
                HouseRefusals.SettingAbsurd,
                $"A gauge has a name of at most {Gauge.MostName} letters, as it names itself.",
                "Type one. Nothing was kept."
            );
        var gauge = await Load(act, name);
        var was = gauge?.CalibratedUntil;
        if (gauge is null)
            act.Db.Gauges.Add(
                new Gauge
                {
                    SiteId = act.Site.Id,
                    Name = name,
                    CalibratedUntil = request.Until,
                    KeptBy = act.Person.Name,
                    KeptAt = act.Now,
                }
            );
        else
            (gauge.CalibratedUntil, gauge.KeptBy, gauge.KeptAt) = (request.Until, act.Person.Name, act.Now);
        return Said(act, new GaugeKept(gauge?.Name ?? name, request.Until, was));
    }

    public static async Task<Outcome<DoneAnswer>> Drop(Act act, DropGaugeRequest request)
    {
        if (await Load(act, (request.Name ?? "").Trim()) is not { } gauge)
            return Problems.NotFound("gauge", request.Name ?? "");
        act.Db.Gauges.Remove(gauge);
        return Said(act, new GaugeDropped(gauge.Name));
    }

    static Results<Ok<GaugeLineView>, ProblemHttpResult> Sent(Inquiry inquiry, GaugeLineRequest request, GaugeLines lines)
    {
        if ((request.Line ?? "").Length > 100 || Gauges.Read(request.Line ?? "") is null)
            return Problems.Of(
                new Refusal(HouseRefusals.NotANumber, "That is no line of a gauge.", "Send name, value and unit: caliper 212.4 mm.")
            );
        return TypedResults.Ok(lines.Keep(inquiry.Site.Code, request, inquiry.Person.Name, inquiry.Now));
    }

    static DoneAnswer Said(Act act, Core.Book.Fact fact)
    {
        act.Write(fact);
        act.Touch("bench", "site");
        return new DoneAnswer(act.Words(fact));
    }

    static Task<Gauge?> Load(Act act, string name) => act.Db.Gauges.FirstOrDefaultAsync(g => g.SiteId == act.Site.Id && g.Name == name);
}
