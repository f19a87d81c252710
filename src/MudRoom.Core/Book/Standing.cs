using MudRoom.Core.Site;

namespace MudRoom.Core.Book;

/// <summary>What goods may be used for, by its number at the site; what the number means stands in the site's rows: see
/// <see cref="StandingDefinition"/>. Seven are there at every site.</summary>
/// <param name="Id">0 to 3 and from 1000 on for those that every site has, others for those that its administrator added. Hashed and
/// stored.</param>
public readonly record struct Standing(int Id)
{
    public static Standing Usable => new(0);
    public static Standing ToInspect => new(1);
    public static Standing Held => new(2);
    public static Standing Rejected => new(3);

    /// <summary>Held by a recall: fetched from wherever it is. It came when sites had numbers of their own from 4 on.</summary>
    public static Standing Recalled => new(FirstOfLater);

    /// <summary>Decided to be scrapped: fetched to the scrap place, and gone when it leaves.</summary>
    public static Standing ToScrap => new(FirstOfLater + 1);

    /// <summary>Decided to go back to its vendor or customer: fetched to where it is despatched from.</summary>
    public static Standing ToGoBack => new(FirstOfLater + 2);

    /// <summary>The number from which on those stand that every site has and that came later.</summary>
    public const int FirstOfLater = 1000;

    /// <summary>Those of which goods are fetched from wherever they stand.</summary>
    public static IReadOnlyList<Standing> Fetched { get; } = [Recalled, ToScrap, ToGoBack];
}

/// <summary>What a standing means to everybody, whatever its word: the further down, the more it keeps back.</summary>
public enum StandingKind
{
    Usable = 0,
    ToInspect = 1,
    Held = 2,
    Rejected = 3,
}

/// <summary>What may be done with goods.</summary>
[Flags]
public enum Lets
{
    None = 0,

    /// <summary>Brought from where they came in to a place of their own.</summary>
    PutAway = 1,

    /// <summary>Brought from one place of their own to another.</summary>
    Move = 2,

    /// <summary>Picked or issued.</summary>
    Issue = 4,

    /// <summary>Sent out of the house and still ours: outwork.</summary>
    Ship = 8,

    /// <summary>Counted where they stand.</summary>
    Count = 16,

    /// <summary>Sampled.</summary>
    Sample = 32,
    All = PutAway | Move | Issue | Ship | Count | Sample,
}

/// <summary>The shapes that a standing may be drawn with; the first four are those of the built-in kinds.</summary>
public enum MarkShape
{
    Square = 0,
    HalfCircle = 1,
    BarredSquare = 2,
    CrossedSquare = 3,
    Ring = 4,
    Triangle = 5,
    Hexagon = 6,
    Shield = 7,
    Plus = 8,
    Arch = 9,
}

/// <summary>The colours that a standing may be drawn in; each reads on paper and in the dark.</summary>
public enum MarkColour
{
    Leaf = 0,
    Slate = 1,
    Plum = 2,
    Peat = 3,
    Sea = 4,
    Wine = 5,
}

/// <summary>A standing as a screen shows it.</summary>
public sealed record StandingSeen(string Word, StandingKind Kind, MarkShape Shape, MarkColour Colour);

/// <summary>What a standing of a site means: a row, which the administrator changes.</summary>
public sealed class StandingDefinition
{
    /// <summary>Most standings a site has, retired ones with them.</summary>
    public const int Most = 40;

    /// <summary>Ranks lie between 1 and this; the built-in ones stand in the middle.</summary>
    public const int HighestRank = 99;
    const int MiddleRank = 50;

    public int Id { get; init; }
    public required int SiteId { get; init; }
    public required Standing Standing { get; init; }

    /// <summary>On the screen, in messages and files: "held".</summary>
    public required string Word { get; set; }

    /// <summary>What it is to everybody; never changed.</summary>
    public required StandingKind Kind { get; init; }

    /// <summary>What it lets be done.</summary>
    public required Lets Lets { get; set; }

    /// <summary>Bins of these functions may take such goods.</summary>
    public required List<BinFunction> Places { get; set; }

    /// <summary>Which word is shown where several of one kind are said: the higher.</summary>
    public int Rank { get; set; } = MiddleRank;
    public required MarkShape Shape { get; set; }
    public required MarkColour Colour { get; set; }

    /// <summary>True where such goods are counted as free to use, in figures and messages.</summary>
    public bool Available { get; set; }

    /// <summary>Nothing new is said with it.</summary>
    public bool Retired { get; set; }

    /// <summary>True for those that every site has: only their places change.</summary>
    public bool IsBuiltIn => Standing.Id is < 4 or >= Standing.FirstOfLater;

    /// <summary>True where such goods are fetched: a task brings them to their place from wherever they stand.</summary>
    public bool IsFetched => Standing.Fetched.Contains(Standing);

    /// <summary>As a screen shows it.</summary>
    public StandingSeen Seen => new(Word, Kind, Shape, Colour);

    /// <summary>True where such goods may stand: in their own places, and where goods wait until they are put away.</summary>
    public bool MayStand(BinFunction function) => function is BinFunction.Staging or BinFunction.Truck || Places.Contains(function);

    /// <summary>Its places in words: "cage or scrap".</summary>
    public string PlaceWords => string.Join(" or ", Places.Select(p => p.ToString().ToLowerInvariant()));

    /// <summary>Those that every site has.</summary>
    public static IReadOnlyList<StandingDefinition> BuiltIn(int siteId)
    {
        const Lets notOut = Lets.All & ~(Lets.Issue | Lets.Ship);
        StandingDefinition Of(
            Standing standing,
            StandingKind kind,
            string word,
            Lets lets,
            MarkShape shape,
            MarkColour colour,
            params BinFunction[] places
        ) =>
            new()
            {
                SiteId = siteId,
                Standing = standing,
                Word = word,
                Kind = kind,
                Lets = lets,
                Places = [.. places],
                Shape = shape,
                Colour = colour,
                Available = kind == StandingKind.Usable,
                // Of what is held, a recall is the word to see.
                Rank = standing == Standing.Recalled ? HighestRank : MiddleRank,
            };
        return
        [
            Of(
                Standing.Usable,
                StandingKind.Usable,
                "usable",
                Lets.All,
                MarkShape.Square,
                MarkColour.Leaf,
                BinFunction.Pick,
                BinFunction.Reserve,
                BinFunction.Floor
            ),
            Of(Standing.ToInspect, StandingKind.ToInspect, "to inspect", notOut, MarkShape.HalfCircle, MarkColour.Slate, BinFunction.Bench),
            Of(Standing.Held, StandingKind.Held, "held", notOut, MarkShape.BarredSquare, MarkColour.Plum, BinFunction.Cage),
            Of(
                Standing.Rejected,
                StandingKind.Rejected,
                "rejected",
                notOut,
                MarkShape.CrossedSquare,
                MarkColour.Peat,
                BinFunction.Cage,
                BinFunction.Scrap
            ),
            Of(Standing.Recalled, StandingKind.Held, "recalled", notOut, MarkShape.Shield, MarkColour.Plum, BinFunction.Cage),
            Of(Standing.ToScrap, StandingKind.Rejected, "to be scrapped", notOut, MarkShape.Hexagon, MarkColour.Peat, BinFunction.Scrap),
            Of(Standing.ToGoBack, StandingKind.Rejected, "to go back", notOut, MarkShape.Arch, MarkColour.Peat, BinFunction.Dispatch),
        ];
    }

    /// <summary>What becomes of it where somebody wants another in its place: the number and the kind stay, and of a built-in one all but
    /// its places.</summary>
    public StandingDefinition ChangedTo(StandingDefinition wanted) =>
        new()
        {
            SiteId = SiteId,
            Standing = Standing,
            Kind = Kind,
            Places = wanted.Places,
            Word = IsBuiltIn ? Word : wanted.Word,
            Lets = IsBuiltIn ? Lets : wanted.Lets,
            Rank = IsBuiltIn ? Rank : wanted.Rank,
            Shape = IsBuiltIn ? Shape : wanted.Shape,
            Colour = IsBuiltIn ? Colour : wanted.Colour,
            Available = IsBuiltIn ? Available : wanted.Available,
            Retired = !IsBuiltIn && wanted.Retired,
        };

    /// <summary>What is wrong with it as a row of its site, or null.</summary>
    /// <param name="others">The other standings of the site, retired ones too: a word of the past is not used anew.</param>
    public Refusal? Fault(IEnumerable<StandingDefinition> others)
    {
        if (Word is not { Length: >= 2 and <= 30 } || Word.Trim() != Word)
            return No("A standing has a word of 2 to 30 characters.", "Type it");
        if (!Enum.IsDefined(Kind) || !Enum.IsDefined(Shape) || !Enum.IsDefined(Colour) || (Lets & ~Lets.All) != 0)
            return No("That is no standing.", "Load the page again");
        if (
            Places.Count == 0
            || Places.Any(p => !Enum.IsDefined(p) || p is BinFunction.Staging or BinFunction.Truck)
            || Places.Contains(BinFunction.Dispatch) && Standing != Standing.ToGoBack
        )
            return No($"{Word} goods must be let stand somewhere.", "Choose one or more kinds of bins; receiving places always take them");
        if (Rank is < 1 or > HighestRank)
            return No($"A rank lies between 1 and {HighestRank}.", "Look at the number");
        if (Kind != StandingKind.Usable && (Lets & (Lets.Issue | Lets.Ship)) != 0)
            return No(
                $"{Word} is of the kind {KindWord(Kind)}: such goods are neither issued nor shipped.",
                "Choose the kind usable for it"
            );
        if (Available && (Kind != StandingKind.Usable || (Lets & Lets.Issue) == 0))
            return No($"{Word} goods cannot be issued, and so are not available.", "Let them be issued, or do not count them");
        foreach (var other in others.Where(o => o.Standing != Standing))
        {
            if (other.Word.Equals(Word, StringComparison.OrdinalIgnoreCase))
                return No($"There is a standing {other.Word} already{(other.Retired ? ", retired" : "")}.", "Choose another word");
            if (!Retired && !other.Retired && (other.Shape, other.Colour) == (Shape, Colour))
                return No($"{other.Word} is drawn like that.", "Choose another shape or colour");
        }

        return null;

        static Refusal No(string sentence, string next) => new(BookRefusals.StandingAbsurd, sentence, next + ". Nothing was kept.");
    }

    /// <summary>A kind in words.</summary>
    public static string KindWord(StandingKind kind) => BuiltIn(0)[(int)kind].Word;

    /// <summary>Everything that a standing may let be done, one by one.</summary>
    public static IReadOnlyList<Lets> Letting { get; } = [Lets.PutAway, Lets.Move, Lets.Issue, Lets.Ship, Lets.Count, Lets.Sample];

    /// <summary>What it lets be done, in words.</summary>
    public static string LetsWords(Lets lets) =>
        lets == Lets.None
            ? "nothing be done"
            : string.Join(
                ", ",
                Letting
                    .Where(l => lets.HasFlag(l))
                    .Select(l =>
                        l switch
                        {
                            Lets.PutAway => "put away",
                            Lets.Move => "move",
                            Lets.Issue => "issue",
                            Lets.Ship => "ship",
                            Lets.Count => "count",
                            Lets.Sample => "sample",
                            _ => throw new ArgumentOutOfRangeException(nameof(lets), lets, null),
                        }
                    )
            );
}

/// <summary>The standings of a site.</summary>
public sealed class SiteStandings
{
    readonly Dictionary<Standing, StandingDefinition> byNumber;
    readonly Dictionary<Standing, int> order;

    /// <summary>Those of a site: its rows, and the built-in ones as they are where it has changed nothing.</summary>
    public SiteStandings(int siteId, IEnumerable<StandingDefinition> rows)
    {
        byNumber = StandingDefinition.BuiltIn(siteId).ToDictionary(d => d.Standing);
        foreach (var row in rows)
            byNumber[row.Standing] = row;
        All = [.. byNumber.Values.OrderBy(d => d.Kind).ThenBy(d => d.Rank).ThenBy(d => d.Standing.Id)];
        order = All.Select((d, i) => (d.Standing, i)).ToDictionary(x => x.Standing, x => x.i);
    }

    /// <summary>As they are where nothing was changed.</summary>
    public static SiteStandings BuiltIn { get; } = new(0, []);

    /// <summary>All of them, what keeps back most last.</summary>
    public IReadOnlyList<StandingDefinition> All { get; }

    /// <summary>What a standing means here.</summary>
    /// <exception cref="KeyNotFoundException">The site has none of this number.</exception>
    public StandingDefinition this[Standing standing] => byNumber[standing];

    /// <summary>Its word.</summary>
    public string Word(Standing standing) => byNumber.TryGetValue(standing, out var row) ? row.Word : $"standing {standing.Id}";

    /// <summary>By its word, in any case and with or without its spaces; null where the site has none.</summary>
    public StandingDefinition? ByWord(string word)
    {
        static string Bare(string text) => text.Replace(" ", "");
        return All.FirstOrDefault(d => Bare(d.Word).Equals(Bare(word), StringComparison.OrdinalIgnoreCase));
    }

    /// <summary>What a hold by hand may ask for: held, or one that the site added and has not retired; null for any other word.</summary>
    /// <param name="word">Null for the usual one.</param>
    public StandingDefinition? ForHold(string? word) =>
        word is null ? this[Standing.Held]
        : ByWord(word) is { Retired: false } chosen && (!chosen.IsBuiltIn || chosen.Standing == Standing.Held) ? chosen
        : null;

    /// <summary>What may be done with goods of which all these are asked: only what every one of them lets.</summary>
    public Lets LetsOf(IEnumerable<Standing> asked) => asked.Aggregate(Lets.All, (lets, s) => lets & this[s].Lets);

    /// <summary>The number of the next one that is added.</summary>
    public Standing Next => new(byNumber.Keys.Where(s => s.Id < Standing.FirstOfLater).Max(s => s.Id) + 1);

    /// <summary>Where a standing stands among the others, what keeps back most highest.</summary>
    public int Order(Standing standing) => order[standing];

    /// <summary>Of two, the one that keeps back more: goods of which both are asked have its word.</summary>
    public Standing Higher(Standing one, Standing other) => Order(other) > Order(one) ? other : one;
}
