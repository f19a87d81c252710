using MudRoom.Core.Bench;

namespace MudRoom.Core.Tests.Published;

/// <summary>
/// Chances, outgoing quality and average numbers of sample plans against R 4.2.2 (stats: pbinom, ppois, qbeta, qgamma, dhyper, pt, qt),
/// scipy 1.10.1 and quadrature, as each table of data says at its head; skip-lot against the closed form of Perry (1973), from memory, and
/// its simulation.
/// </summary>
public sealed class WhatPlansDo
{
    /// <summary>Alike to so many parts of the larger.</summary>
    static void Near(double wanted, double got, double relative, string what) =>
        Assert.True(Math.Abs(wanted - got) <= relative * Math.Max(Math.Abs(wanted), 1e-12), $"{what}: {wanted} wanted, {got} got");

    [Fact]
    public void Chances_of_single_plans_are_those_of_R()
    {
        var rows = Table.Read("acceptance_binomial_poisson.csv");
        Assert.True(rows.Count > 500);
        foreach (var r in rows)
        {
            var plan = new SamplePlan.Single(r.Whole("n"), r.Whole("c"));
            var p = r.Number("p");
            Assert.Equal(r.Number("Pa_binomial"), new OperatingCharacteristic(plan, 100_000).Chance(p), 1e-9);
            Assert.Equal(r.Number("Pa_poisson"), new OperatingCharacteristic(plan, 100_000, true).Chance(p), 1e-9);
        }
    }

    [Fact]
    public void The_quality_at_a_chance_is_that_of_R()
    {
        var rows = Table.Read("acceptance_points_of_oc.csv");
        Assert.True(rows.Count > 90);
        foreach (var r in rows)
        {
            var plan = new SamplePlan.Single(r.Whole("n"), r.Whole("c"));
            var what = $"n {plan.Size}, Ac {plan.Ac}, Pa {r["Pa"]}";
            if (r["p_binomial"] is not ("" or "NA"))
                Near(r.Number("p_binomial"), new OperatingCharacteristic(plan, 100_000).QualityAt(r.Number("Pa")), 1e-6, what);
            Near(
                r.Number("mean_poisson"),
                new OperatingCharacteristic(plan, 100_000, true).QualityAt(r.Number("Pa")) * plan.Size,
                1e-6,
                what
            );
        }
    }

    [Fact]
    public void Outgoing_quality_its_limit_and_the_average_looked_at_are_those_of_R()
    {
        var rows = Table.Read("single_plans_aoq_aoql_ati.csv");
        Assert.True(rows.Count > 100);
        foreach (var r in rows)
        {
            var plan = new OperatingCharacteristic(new SamplePlan.Single(r.Whole("n"), r.Whole("c")), r.Whole("N"));
            Near(r.Number("AOQ"), plan.OutgoingQuality(r.Number("p")), 1e-8, "AOQ");
            Near(r.Number("ATI"), plan.AverageInspected(r.Number("p")), 1e-8, "ATI");
            var (limit, at) = plan.OutgoingLimit();
            Near(r.Number("AOQL"), limit, 1e-8, "AOQL");
            Near(r.Number("p_at_AOQL"), at, 1e-3, "quality at the AOQL");
        }
    }

    [Fact]
    public void Double_plans_are_those_of_R()
    {
        var rows = Table.Read("double_plans.csv");
        Assert.True(rows.Count > 80);
        foreach (var r in rows)
        {
            var plan = new OperatingCharacteristic(
                new SamplePlan.Double(r.Whole("n1"), r.Whole("c1"), r.Whole("r1"), r.Whole("n2"), r.Whole("c2")),
                r.Whole("N")
            );
            var p = r.Number("p");
            Assert.Equal(r.Number("Pa_first"), plan.Parts(p).First, 1e-9);
            Assert.Equal(r.Number("Pa_second"), plan.Parts(p).Second, 1e-9);
            Near(r.Number("ASN"), plan.AverageSample(p), 1e-9, "ASN");
            Near(r.Number("ATI"), plan.AverageInspected(p), 1e-9, "ATI");
            Near(r.Number("AOQ"), plan.OutgoingQuality(p), 1e-8, "AOQ");
            Assert.Equal(r.Number("Pa_hypergeometric"), plan.ChanceOfLot(r.Whole("D_in_lot")), 1e-8);
        }
    }

    /// <summary>Cells of tables 3-A and 3-B from memory; each beside its single plan, whose curve it must nearly keep.</summary>
    [Fact]
    public void Double_plans_of_the_standard_nearly_keep_the_curve_of_their_single_plan()
    {
        var rows = Table.Read("iso2859_double_plans_from_memory.csv");
        var doubles = 0;
        foreach (var r in rows)
        {
            var severity = r["severity"] == "normal" ? Severity.Normal : Severity.Tightened;
            var single = SamplingTables.Plan(
                r["letter"][0],
                decimal.Parse(r["aql"], System.Globalization.CultureInfo.InvariantCulture),
                severity
            );
            Assert.Equal((r.Whole("n_single"), r.Whole("Ac_single")), (single.SampleSize, single.Ac));
            var plan = SamplingTables.Double(single, severity);
            if (r["kind"] != "double")
            {
                Assert.Null(plan);
                continue;
            }

            doubles++;
            Assert.Equal(new SamplePlan.Double(r.Whole("n_each"), r.Whole("Ac1"), r.Whole("Re1"), r.Whole("n_each"), r.Whole("Ac2")), plan);
            var perHundred = r["law"] == "poisson";
            var two = new OperatingCharacteristic(plan!, 1_000_000, perHundred);
            var one = new OperatingCharacteristic(new SamplePlan.Single(single.SampleSize, single.Ac), 1_000_000, perHundred);
            var where = $"{severity} {single.Letter} {r["aql"]}";
            Near(r.Number("p95_double"), 100 * two.QualityAt(0.95), 1e-3, where);
            // Within 8 per cent at the chance of 10; at that of 95 the plans of few allowed differ more.
            Assert.InRange(two.QualityAt(0.10) / one.QualityAt(0.10), 0.92, 1.08);
            Assert.InRange(two.QualityAt(0.95) / one.QualityAt(0.95), single.Ac <= 3 ? 0.85 : 0.92, single.Ac <= 3 ? 1.30 : 1.08);
        }

        Assert.True(doubles > 100, $"only {doubles} double plans");
    }

    [Fact]
    public void The_noncentral_t_is_good_to_nine_digits()
    {
        var rows = Table.Read("noncentral_t_cdf.csv");
        Assert.True(rows.Count > 1300);
        foreach (var r in rows)
            Assert.True(
                Math.Abs(r.Number("cdf") - NoncentralT.Cdf(r.Number("t"), r.Number("df"), r.Number("ncp"))) < 1e-9,
                $"df {r["df"]}, ncp {r["ncp"]}, t {r["t"]}"
            );
    }

    [Fact]
    public void So_is_its_inverse()
    {
        var rows = Table.Read("noncentral_t_quantile.csv");
        Assert.True(rows.Count > 1600);
        foreach (var r in rows.Where((_, i) => i % 5 == 0))
            Near(
                r.Number("t"),
                NoncentralT.Quantile(r.Number("p"), r.Number("df"), r.Number("ncp")),
                Math.Abs(r.Number("t")) < 1 ? 1e-9 / Math.Max(Math.Abs(r.Number("t")), 1e-12) : 1e-9,
                $"df {r["df"]}, ncp {r["ncp"]}, p {r["p"]}"
            );
    }

    [Fact]
    public void Size_and_k_by_variables_from_two_points_are_the_smallest()
    {
        var rows = Table.Read("variables_plans_two_point.csv");
        Assert.True(rows.Count > 20);
        foreach (var r in rows)
        {
            var isKnown = r["spread"] == "sigma";
            var (size, k) = VariablesPlans.ByTwoPoints(r.Number("p1"), r.Number("alpha"), r.Number("p2"), r.Number("beta"), isKnown)!.Value;
            Assert.Equal(r.Whole("n"), size);
            Near(r.Number("k_mid"), k, 1e-7, $"k of case {r["case"]}");
            var plan = new SamplePlan.Variables(size, k, isKnown ? 1 : null);
            Assert.Equal(r.Number("Pa1_at_k_mid"), VariablesPlans.Chance(r.Number("p1"), plan), 1e-8);
            Assert.Equal(r.Number("Pa2_at_k_mid"), VariablesPlans.Chance(r.Number("p2"), plan), 1e-8);
        }
    }

    [Fact]
    public void Chances_of_the_k_method_are_those_of_R()
    {
        foreach (var r in Table.Read("variables_k_method_oc.csv"))
        {
            var (n, k, p) = (r.Whole("n"), r.Number("k"), r.Number("fraction_nonconforming"));
            Assert.Equal(r.Number("Pa_s_method_noncentral_t"), VariablesPlans.Chance(p, new SamplePlan.Variables(n, k, null)), 1e-8);
            Assert.Equal(r.Number("Pa_sigma_known"), VariablesPlans.Chance(p, new SamplePlan.Variables(n, k, 1)), 1e-8);
        }
    }

    [Fact]
    public void The_estimated_fraction_nonconforming_is_that_of_R()
    {
        foreach (var r in Table.Read("variables_p_hat.csv"))
            Assert.Equal(r.Number("p_hat_percent"), 100 * VariablesPlans.Fraction(r.Number("Q"), r.Whole("n"), false), 1e-6);
    }

    /// <summary>Five values against an upper limit of 209; worked example of the forerunners of ISO 3951, from memory: mean 195, s 8.8, Q
    /// 1.59, k 1.53, about 2.19 percent outside, accepted.</summary>
    [Fact]
    public void The_worked_example_of_five_values_is_accepted()
    {
        decimal[] values = [197, 188, 184, 205, 201];
        var stand = VariablesPlans.Stand(values, null, 209, null)!;
        Assert.Equal(195, stand.Mean, 10);
        Assert.Equal(8.8, stand.Spread, 0.01);
        Assert.Equal(1.59, stand.ToUpper!.Value, 0.01);
        Assert.Equal(2.19, 100 * stand.Fraction, 0.02);
        Assert.Equal(Verdict.Accepted, VariablesPlans.Judge(new SamplePlan.Variables(5, 1.53, null), values, null, 209).Verdict);
        Assert.Equal(Verdict.Rejected, VariablesPlans.Judge(new SamplePlan.Variables(5, 1.60, null), values, null, 209).Verdict);
    }

    [Fact]
    public void Skip_lot_accepts_and_looks_as_the_closed_form_and_its_simulation_say()
    {
        var rows = Table.Read("skip_lot_sksp2.csv");
        Assert.True(rows.Count > 200);
        foreach (var r in rows)
        {
            var f = r["f"].Split('/') is [var top, var bottom] ? double.Parse(top) / double.Parse(bottom) : r.Number("f");
            var skip = new SkipLot(r.Whole("i"), f);
            Near(r.Number("Pa_closed"), skip.Chance(r.Number("P")), 1e-12, "Pa");
            Near(r.Number("F_closed"), skip.Inspected(r.Number("P")), 1e-12, "F");
            Assert.Equal(r.Number("Pa_simulated"), skip.Chance(r.Number("P")), 0.006);
        }
    }

    [Fact]
    public void A_vendors_quality_is_estimated_as_R_does_with_Jeffreys_prior()
    {
        var rows = Table.Read("proportion_intervals.csv");
        Assert.True(rows.Count >= 40);
        foreach (var r in rows)
        {
            var quality = new VendorQuality(r.Whole("nonconforming"), r.Whole("inspected"), 1);
            var (low, high) = quality.Range(r.Number("level"));
            Near(r.Number("jeffreys_low"), low, 1e-6, $"low of case {r["case"]}");
            Near(r.Number("jeffreys_high"), high, 1e-6, $"high of case {r["case"]}");
            Near(r.Number("jeffreys_median"), quality.Quantile(0.5), 1e-6, "median");
            Near(r.Number("jeffreys_mean"), quality.Mean, 1e-12, "mean");
            Near(quality.Mean, quality.Average(p => p), 1e-9, "mean by the sum over the distribution");
        }
    }

    /// <summary>NIST/SEMATECH e-Handbook of Statistical Methods, 6.2.3: n 52, c 3, lots of 10 000; from memory, to the digits it prints
    /// (it cuts the average off, and does not round).</summary>
    [Fact]
    public void The_single_plan_of_the_NIST_handbook_has_its_curve_its_average_and_its_limit()
    {
        double[] chances = [0.998, 0.98, 0.93, 0.845, 0.739, 0.62, 0.502, 0.394, 0.3, 0.223, 0.162, 0.115];
        double[] looked = [70, 253, 753, 1584, 2655, 3836, 5007, 6083, 7012, 7779, 8388, 8854, 9201, 9453];
        var plan = new OperatingCharacteristic(new SamplePlan.Single(52, 3), 10_000);
        for (var i = 0; i < chances.Length; i++)
            Assert.Equal(chances[i], plan.Chance((i + 1) / 100.0), 0.0012);
        for (var i = 0; i < looked.Length; i++)
            Assert.Equal(looked[i], plan.AverageInspected((i + 1) / 100.0), 1.0);
        Assert.Equal(0.0372, plan.OutgoingLimit().Limit, 0.0001);
    }
}
