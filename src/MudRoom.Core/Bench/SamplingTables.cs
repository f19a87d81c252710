namespace MudRoom.Core.Bench;

/// <summary>General levels I to III, special levels S-1 to S-4.</summary>
public enum InspectionLevel
{
    S1,
    S2,
    S3,
    S4,
    I,
    II,
    III,
}

/// <summary>How sharp inspection is at the moment.</summary>
public enum Severity
{
    Normal,
    Tightened,
    Reduced,
}

/// <summary>A single sampling plan: look at <paramref name="SampleSize"/>, accept at most <paramref name="Ac"/> nonconforming, reject from
/// <paramref name="Re"/>.</summary>
public sealed record SinglePlan(char Letter, int SampleSize, int Ac, int Re);

/// <summary>
/// The tables of ISO 2859-1:1999: table 1 (code letters), 2-A normal, 2-B tightened, 2-C reduced.
/// Table 1 and 2-C stand from memory. 2-A and 2-B are laid out by the standard's diagonals, from memory, and agree with
/// an independent list of half their plans (see the tests). Within a table a plan's acceptance number depends only on
/// the sum of the places of its letter and its AQL: that sum is what the rows below are indexed by.
/// </summary>
public static class SamplingTables
{
    /// <summary>Code letters in order; S exists for tightened inspection only.</summary>
    public const string Letters = "ABCDEFGHJKLMNPQRS";

    /// <summary>The AQLs, in percent nonconforming or nonconformities per 100.</summary>
    public static IReadOnlyList<decimal> Aqls { get; } =
    [
        0.010m,
        0.015m,
        0.025m,
        0.040m,
        0.065m,
        0.10m,
        0.15m,
        0.25m,
        0.40m,
        0.65m,
        1.0m,
        1.5m,
        2.5m,
        4.0m,
        6.5m,
        10m,
        15m,
        25m,
        40m,
        65m,
        100m,
        150m,
        250m,
        400m,
        650m,
        1000m,
    ];

    static readonly int[] normalSizes = [2, 3, 5, 8, 13, 20, 32, 50, 80, 125, 200, 315, 500, 800, 1250, 2000, 3150];
    static readonly int[] reducedSizes = [2, 2, 2, 3, 5, 8, 13, 20, 32, 50, 80, 125, 200, 315, 500, 800];

    // Table 1, from memory: upper end of the lot size, then S-1, S-2, S-3, S-4, I, II, III.
    static readonly (long UpTo, string Letters)[] table1 =
    [
        (8, "AAAAAAB"),
        (15, "AAAAABC"),
        (25, "AABBBCD"),
        (50, "ABBCCDE"),
        (90, "BBCCCEF"),
        (150, "BBCDDFG"),
        (280, "BCDEEGH"),
        (500, "BCDEFHJ"),
        (1200, "CCEFGJK"),
        (3200, "CDEGHKL"),
        (10_000, "CDFGJLM"),
        (35_000, "CDFHKMN"),
        (150_000, "DEGJLNP"),
        (500_000, "DEGJMPQ"),
        (long.MaxValue, "DEHKNQR"),
    ];

    // Acceptance numbers from the diagonal of Ac 1 onward.
    static readonly int[] normalAc = [1, 2, 3, 5, 7, 10, 14, 21, 30, 44];
    static readonly int[] tightenedAc = [1, 2, 3, 5, 8, 12, 18, 27, 41];
    static readonly int[] reducedAc = [1, 2, 3, 4, 5, 6, 8, 10, 14, 21];
    static readonly int[] reducedAcForTwo = [1, 2, 3, 5, 7, 10, 14, 21, 30];
    static readonly int[] reducedAcForB = [1, 2, 3, 4, 5, 7, 10, 14, 21, 30];

    /// <summary>Table 1: the code letter for a lot.</summary>
    /// <param name="lotSize">In sampling units, from 2.</param>
    /// <param name="level">Inspection level.</param>
    public static char Letter(long lotSize, InspectionLevel level)
    {
        ArgumentOutOfRangeException.ThrowIfLessThan(lotSize, 2);
        return table1.First(row => lotSize <= row.UpTo).Letters[(int)level];
    }

    /// <summary>Tables 2-A to 2-C: the plan for a letter and AQL, following arrows to the first plan in their direction, with that plan's
    /// own sample size.</summary>
    /// <exception cref="ArgumentException">The AQL is none of the standard's.</exception>
    public static SinglePlan Plan(char letter, decimal aql, Severity severity)
    {
        var column = Aqls.ToList().IndexOf(aql);
        if (column < 0)
            throw new ArgumentException($"{aql} is no AQL of ISO 2859-1.", nameof(aql));
        var row = Letters.IndexOf(letter);
        while (true)
        {
            var cell = CellAt(row, column, severity);
            switch (cell)
            {
                case Cell.Plan plan:
                    return new SinglePlan(Letters[row], Sizes(severity)[row], plan.Ac, plan.Ac + 1);
                case Cell.Up:
                    row--;
                    break;
                case Cell.Down:
                    row++;
                    break;
            }
        }
    }

    /// <summary>What stands in a cell of the master tables: a plan, or an arrow.</summary>
    public abstract record Cell
    {
        Cell() { }

        /// <summary>An acceptance number.</summary>
        public sealed record Plan(int Ac) : Cell;

        /// <summary>An arrow to the letter before.</summary>
        public sealed record Up : Cell;

        /// <summary>An arrow to the letter after.</summary>
        public sealed record Down : Cell;
    }

    /// <summary>The cell in a row (place of the letter) and column (place of the AQL).</summary>
    public static Cell CellAt(int row, int column, Severity severity)
    {
        var diagonal = row + column;
        var lastRow = LastRow(severity);
        return severity switch
        {
            Severity.Tightened => Tightened(row, column, diagonal),
            _ => diagonal switch
            {
                < 14 => new Cell.Down(),
                14 => new Cell.Plan(0),
                // Above the first row there is nothing to go up to.
                15 => row == 0 ? new Cell.Down() : new Cell.Up(),
                // Below the last row there is nothing to go down to.
                16 => row == lastRow ? new Cell.Up() : new Cell.Down(),
                _ => OfSequence(AcceptanceNumbers(severity, row), diagonal - 17, row),
            },
        };
    }

    /// <summary>The place of the last letter of a table.</summary>
    public static int LastRow(Severity severity) => severity == Severity.Tightened ? 16 : 15;

    // Tables 3-A and 3-B, from memory: both numbers of the first sample and the second's acceptance number, by the single plan's Ac.
    static readonly Dictionary<int, (int Ac1, int Re1, int Ac2)> normalDouble = new()
    {
        [1] = (0, 2, 1),
        [2] = (0, 3, 3),
        [3] = (1, 3, 4),
        [5] = (2, 5, 6),
        [7] = (3, 6, 9),
        [10] = (5, 9, 12),
        [14] = (7, 11, 18),
        [21] = (11, 16, 26),
        [30] = (17, 22, 37),
        [44] = (25, 31, 56),
    };

    static readonly Dictionary<int, (int Ac1, int Re1, int Ac2)> tightenedDouble = new()
    {
        [1] = (0, 2, 1),
        [2] = (0, 3, 3),
        [3] = (1, 3, 4),
        [5] = (2, 5, 6),
        [8] = (4, 7, 10),
        [12] = (6, 10, 15),
        [18] = (9, 14, 23),
        [27] = (15, 20, 34),
        [41] = (23, 29, 52),
    };

    /// <summary>
    /// Tables 3-A and 3-B: the double plan beside a single one, each sample as large as the single plan's of the letter before. Null where
    /// there is none: for acceptance number 0, for letter A, and for reduced inspection, whose table (3-C) is not known well enough.
    /// </summary>
    /// <param name="single">A plan of the tables.</param>
    /// <param name="severity">By which it was found.</param>
    public static SamplePlan.Double? Double(SinglePlan single, Severity severity)
    {
        var row = Letters.IndexOf(single.Letter);
        var numbers = severity switch
        {
            Severity.Normal => normalDouble,
            Severity.Tightened => tightenedDouble,
            _ => null,
        };
        if (row <= 0 || numbers is null || !numbers.TryGetValue(single.Ac, out var n))
            return null;
        var size = normalSizes[row - 1];
        return new SamplePlan.Double(size, n.Ac1, n.Re1, size, n.Ac2);
    }

    static int[] Sizes(Severity severity) => severity == Severity.Reduced ? reducedSizes : normalSizes;

    static Cell Tightened(int row, int column, int diagonal)
    {
        // Letter S exists for one plan only: AQL 0.025.
        if (row == 16)
            return diagonal == 18 ? new Cell.Plan(1) : new Cell.Up();
        return diagonal switch
        {
            < 15 => new Cell.Down(),
            15 => new Cell.Plan(0),
            16 => column == 1 ? new Cell.Up() : new Cell.Down(),
            17 => new Cell.Down(),
            _ => OfSequence(tightenedAc, diagonal - 18, row),
        };
    }

    static int[] AcceptanceNumbers(Severity severity, int row) =>
        (severity, row) switch
        {
            (Severity.Normal, _) => normalAc,
            (_, 0) => reducedAcForTwo,
            (_, 1) => reducedAcForB,
            _ => reducedAc,
        };

    /// <summary>Letters A to E go on to the end of the sequence; from F the tables stop two steps earlier.</summary>
    static Cell OfSequence(int[] numbers, int place, int row)
    {
        var end = row <= 4 ? numbers.Length : numbers.Length - 2;
        return place < end ? new Cell.Plan(numbers[place]) : new Cell.Up();
    }
}
