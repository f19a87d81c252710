namespace MudRoom.Core.Site;

/// <summary>Why goods are counted aside: they are here, but not as usable.</summary>
public enum Aside
{
    Damaged,
    ShortLife,
    LabelWrong,
    Over,

    /// <summary>An item that no order of this arrival names.</summary>
    NotOnOrder,

    /// <summary>Another item than the papers name stands in its place.</summary>
    WrongItem,

    /// <summary>Goods that are for another own site; they are sent on.</summary>
    OtherSite,
}

/// <summary>What a reason to count goods aside asks for.</summary>
public static class Asides
{
    /// <summary>True for reasons that let goods be counted which no order of the arrival names.</summary>
    public static bool NeedsNoOrder(Aside? aside) => aside is Aside.NotOnOrder or Aside.WrongItem or Aside.OtherSite;

    /// <summary>In words, as a heading of the sentence.</summary>
    public static string Word(Aside aside) =>
        aside switch
        {
            Aside.Damaged => "Damaged",
            Aside.ShortLife => "Remaining life below the minimum",
            Aside.LabelWrong => "Label wrong",
            Aside.Over => "Over, set aside",
            Aside.NotOnOrder => "On no order of this arrival",
            Aside.WrongItem => "Another item than was ordered",
            Aside.OtherSite => "For another own site",
            _ => throw new ArgumentOutOfRangeException(nameof(aside), aside, null),
        };
}
