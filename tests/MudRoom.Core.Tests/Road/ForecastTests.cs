using MathNet.Numerics.Distributions;
using MudRoom.Core.Road;
using MudRoom.Core.Site;

namespace MudRoom.Core.Tests.Road;

/// <summary>The simulation against closed forms, with MathNet.Numerics as the second opinion on the distributions.</summary>
public sealed class ForecastTests
{
    static readonly DateTime now = new(2026, 3, 10, 6, 0, 0, DateTimeKind.Unspecified);

    static LoadToForecast Load(
        string number,
        int door,
        double minutes,
        double spread,
        int startsIn = 0,
        double gateSpread = 0,
        bool begun = false,
        double share = 0,
        int crew = 0
    ) =>
        new(
            number,
            door,
            crew == 0 ? [] : [crew],
            now.AddMinutes(startsIn),
            now.AddMinutes(startsIn + minutes),
            now.AddMinutes(startsIn - 1000),
            gateSpread,
            minutes,
            spread,
            begun,
            share,
            0,
            0
        );

    static DayForecast Run(int runs, params LoadToForecast[] loads) =>
        Forecast.Run(new DayToForecast(now, loads, 0, 1, 0, 1, now.AddHours(11), new PlanSettings()), seed: 5, runs);

    static double Minutes(DateTime at) => (at - now).TotalMinutes;

    [Fact]
    public void One_load_ends_as_the_log_normal_distribution_says()
    {
        var forecast = Run(40_000, Load("A", 1, 60, 0.3));
        var exact = new LogNormal(Math.Log(60), 0.3);
        Assert.Equal(exact.InverseCumulativeDistribution(0.5), Minutes(forecast.Day.Likely), 1.0);
        Assert.Equal(exact.InverseCumulativeDistribution(0.05), Minutes(forecast.Day.Early), 1.0);
        Assert.Equal(exact.InverseCumulativeDistribution(0.95), Minutes(forecast.Day.Late), 2.0);
    }

    [Fact]
    public void Without_spread_a_row_of_loads_is_the_sum_of_its_minutes_and_its_spacings()
    {
        var forecast = Run(50, Load("A", 1, 30, 0), Load("B", 1, 40, 0, startsIn: 1), Load("C", 1, 20, 0, startsIn: 2));
        Assert.Equal(30 + 10 + 40 + 10 + 20, Minutes(forecast.Day.Likely));
        Assert.Equal(forecast.Day.Early, forecast.Day.Late);
    }

    [Fact]
    public void A_load_without_a_door_brings_its_work_and_holds_no_door()
    {
        var settings = new PlanSettings();
        var waits = Load("B", 1, 60, 0) with { Door = null, AtGate = now.AddMinutes(30), Tasks = 6 };
        var day = new DayToForecast(now, [Load("A", 1, 20, 0), waits], 0, 1, 0, 1, now.AddHours(11), settings, ["C"]);
        var forecast = Forecast.Run(day, seed: 5, runs: 50);
        Assert.Equal((20, 20), (Minutes(forecast.AllDoors.Likely), Minutes(Assert.Single(forecast.Doors).Likely)));
        Assert.Equal(30 + settings.GateMinutes + 60 + 6 * 60 / settings.TasksPerHour, Minutes(forecast.Shelf.Likely), 1.0);
        Assert.Equal(forecast.Shelf.Likely, forecast.Day.Likely);
        Assert.Equal(["B"], forecast.WithoutDoor);
        Assert.Equal(["C"], forecast.LeftOut);
    }

    [Fact]
    public void The_sum_of_two_has_the_mean_and_spread_of_a_sum()
    {
        // Fenton and Wilkinson: the sum of log-normals has the summed mean and variance; its quantiles are near those of the log-normal
        // with both.
        var forecast = Run(40_000, Load("A", 1, 60, 0.25), Load("B", 1, 60, 0.25, startsIn: 1));
        var one = new LogNormal(Math.Log(60), 0.25);
        var (mean, variance) = (2 * one.Mean, 2 * one.Variance);
        var sigma = Math.Sqrt(Math.Log(1 + variance / (mean * mean)));
        var sum = new LogNormal(Math.Log(mean) - sigma * sigma / 2, sigma);
        Assert.Equal(sum.InverseCumulativeDistribution(0.5) + 10, Minutes(forecast.Day.Likely), 2.0);
        Assert.Equal(sum.InverseCumulativeDistribution(0.95) + 10, Minutes(forecast.Day.Late), 4.0);
    }

    [Fact]
    public void The_last_of_two_doors_is_the_maximum_of_both()
    {
        var forecast = Run(40_000, Load("A", 1, 60, 0.3), Load("B", 2, 60, 0.3));
        // P(max ≤ x) = F(x)²: the median of the maximum is the 70.7th percentile of one.
        Assert.Equal(
            new LogNormal(Math.Log(60), 0.3).InverseCumulativeDistribution(Math.Sqrt(0.5)),
            Minutes(forecast.AllDoors.Likely),
            1.0
        );
    }

    [Fact]
    public void One_person_at_two_doors_works_at_one_after_the_other() =>
        Assert.Equal(60, Minutes(Run(50, Load("A", 1, 30, 0, crew: 4), Load("B", 2, 30, 0, startsIn: 1, crew: 4)).AllDoors.Likely));

    [Fact]
    public void A_load_half_counted_in_its_time_has_half_of_its_time_left()
    {
        var half = Load("A", 1, 60, 0, startsIn: -30, begun: true, share: 0.5);
        Assert.Equal(30, Minutes(Run(200, half).Day.Likely), 1.0);
    }

    [Fact]
    public void A_load_counted_slowly_ends_between_the_standard_and_todays_rate()
    {
        var slow = Run(2000, Load("A", 1, 60, 0, startsIn: -60, begun: true, share: 0.5));
        Assert.InRange(Minutes(slow.Day.Early), 29, 60);
        Assert.InRange(Minutes(slow.Day.Late), 30, 61);
        Assert.True(slow.Day.Late > slow.Day.Early);
    }

    [Fact]
    public void Bench_and_shelf_run_on_with_their_own_rates()
    {
        var settings = new PlanSettings { InspectionsPerHour = 2, TasksPerHour = 30 };
        var day = new DayToForecast(
            now,
            [Load("A", 1, 60, 0) with { Inspections = 1, Tasks = 20 }],
            Bench: 4,
            Inspectors: 1,
            Shelf: 10,
            Drivers: 1,
            now.AddHours(11),
            settings
        );
        var forecast = Forecast.Run(day, 1, 20);
        // Four inspections take two hours; the fifth comes after one and waits for them.
        Assert.Equal(150, Minutes(forecast.Bench.Likely));
        // Ten tasks take 20 minutes; twenty more begin when the load is done.
        Assert.Equal(100, Minutes(forecast.Shelf.Likely));
        Assert.Equal(150, Minutes(forecast.Day.Likely));
    }

    [Fact]
    public void The_same_seed_gives_the_same_forecast_and_another_a_near_one()
    {
        var day = new DayToForecast(now, [Load("A", 1, 90, 0.3), Load("B", 2, 60, 0.2)], 2, 1, 5, 2, now.AddHours(2), new PlanSettings());
        var (one, again, other) = (Forecast.Run(day, 1), Forecast.Run(day, 1), Forecast.Run(day, 2));
        Assert.Equal((one.Day, one.Bench), (again.Day, again.Bench));
        Assert.InRange(Math.Abs((one.Day.Late - other.Day.Late).TotalMinutes), 0, 8);
        Assert.InRange(one.Day.PastShift, 0.05, 0.5);
    }

    [Fact]
    public void The_first_to_run_late_is_the_one_whose_vehicle_scatters()
    {
        var steady = Load("A", 1, 30, 0.01, startsIn: 60);
        var loose = Load("B", 2, 30, 0.01, startsIn: 60) with { AtGate = now.AddMinutes(50), GateSpread = 60 };
        Assert.Equal("B", Run(2000, steady, loose).FirstLate);
        Assert.Null(Run(2000, steady).FirstLate);
    }

    [Theory]
    [InlineData(0.5, 3)]
    [InlineData(0, 1)]
    [InlineData(1, 5)]
    [InlineData(0.25, 2)]
    [InlineData(0.1, 1.4)]
    public void Percentiles_lie_between_neighbours_in_proportion(double share, double value) =>
        Assert.Equal(value, Forecast.Percentile([5, 1, 4, 2, 3], share), 9);

    [Fact]
    public void A_day_with_nothing_to_do_is_clear_now() => Assert.Equal(now, Run(10).Day.Likely);
}
