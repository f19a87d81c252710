using System.Globalization;
using MudRoom.Core.Identification;

namespace MudRoom.Core.Site;

/// <summary>What kind of value an attribute has.</summary>
public enum AttributeKind
{
    Text,
    Number,
    Date,
    Choice,
    YesNo,
}

/// <summary>Whether an attribute must be known, should be, or may be.</summary>
public enum AttributeNeed
{
    Optional,

    /// <summary>Left blank, it is asked for once.</summary>
    Recommended,
    Required,
}

/// <summary>Something further that is asked of a source batch: farm, harvest, colour bath, germination.</summary>
/// <param name="Name">Its name on the screen; unique within the item.</param>
/// <param name="Unit">Of a number, for the screen.</param>
/// <param name="Least">Smallest number that can be right.</param>
/// <param name="Most">Largest number that can be right.</param>
/// <param name="Choices">What a choice may be.</param>
public sealed record AttributeDefinition(
    string Name,
    AttributeKind Kind,
    AttributeNeed Need = AttributeNeed.Optional,
    string? Unit = null,
    decimal? Least = null,
    decimal? Most = null,
    IReadOnlyList<string>? Choices = null
);

/// <summary>Checks the values of attributes.</summary>
public static class AttributeRules
{
    /// <summary>Most characters of a text.</summary>
    public const int MostCharacters = 120;

    /// <summary>The values as they are kept, by name: numbers plain, dates as yyyy-MM-dd, yes or no; blanks left out. Refused with the name
    /// of the first that is wrong.</summary>
    /// <param name="definitions">What the item asks.</param>
    /// <param name="typed">As typed, by name.</param>
    public static Outcome<IReadOnlyDictionary<string, string>> Read(
        IReadOnlyList<AttributeDefinition> definitions,
        IReadOnlyDictionary<string, string>? typed
    )
    {
        var kept = new Dictionary<string, string>();
        foreach (var (name, text) in typed ?? new Dictionary<string, string>())
        {
            if (text.OrNull() is not { } value)
                continue;
            var definition = definitions.FirstOrDefault(d => d.Name == name);
            if (definition is null)
                return new Refusal(SiteRefusals.AttributeUnknown, $"{name} is not asked of this item.", "Load the page again.");
            var read = Value(definition, value);
            if (read.Refused(out var wrong))
                return wrong;
            kept[name] = read.Value;
        }

        return kept;
    }

    /// <summary>Most attributes of one item.</summary>
    public const int Most = 60;

    /// <summary>What is wrong with what an administrator defined, if anything.</summary>
    public static Refusal? Fault(IReadOnlyList<AttributeDefinition> definitions)
    {
        if (definitions.Count > Most)
            return new Refusal(
                SiteRefusals.AttributeWrong,
                $"An item asks for at most {Most} attributes.",
                "Leave some out. Nothing was kept."
            );
        foreach (var d in definitions)
        {
            if (d?.Name.OrNull() is not { Length: <= 40 } name)
                return new Refusal(
                    SiteRefusals.AttributeWrong,
                    "An attribute has a name of at most 40 characters.",
                    "Type it. Nothing was kept."
                );
            if (!Enum.IsDefined(d.Kind) || !Enum.IsDefined(d.Need))
                return new Refusal(
                    SiteRefusals.AttributeWrong,
                    $"{name} is of a kind that is none of those offered.",
                    "Choose one. Nothing was kept."
                );
            if (
                d.Kind == AttributeKind.Choice
                && (d.Choices is not { Count: > 0 } choices || choices.Any(c => c.OrNull() is not { Length: <= 60 }))
            )
                return new Refusal(
                    SiteRefusals.AttributeWrong,
                    $"{name} is a choice without anything to choose from.",
                    "List what it may be. Nothing was kept."
                );
            if (d.Least > d.Most)
                return new Refusal(
                    SiteRefusals.AttributeWrong,
                    $"{name} would have to be at least {Quantities.Show(d.Least.Value)} and at most {Quantities.Show(d.Most!.Value)}.",
                    "Swap the two. Nothing was kept."
                );
        }

        return definitions.GroupBy(d => d.Name.Trim(), StringComparer.OrdinalIgnoreCase).FirstOrDefault(g => g.Count() > 1) is { } twice
            ? new Refusal(SiteRefusals.AttributeWrong, $"{twice.Key} stands there twice.", "Leave one out. Nothing was kept.")
            : null;
    }

    /// <summary>Names of what is required and still blank.</summary>
    public static IReadOnlyList<string> Missing(
        IReadOnlyList<AttributeDefinition> definitions,
        IReadOnlyDictionary<string, string> values
    ) => Blank(definitions, values, AttributeNeed.Required);

    /// <summary>Names of what is recommended and still blank.</summary>
    public static IReadOnlyList<string> Advised(
        IReadOnlyList<AttributeDefinition> definitions,
        IReadOnlyDictionary<string, string> values
    ) => Blank(definitions, values, AttributeNeed.Recommended);

    static List<string> Blank(
        IReadOnlyList<AttributeDefinition> definitions,
        IReadOnlyDictionary<string, string> values,
        AttributeNeed need
    ) => [.. definitions.Where(d => d.Need == need && !values.ContainsKey(d.Name)).Select(d => d.Name)];

    static Outcome<string> Value(AttributeDefinition d, string text)
    {
        switch (d.Kind)
        {
            case AttributeKind.Text:
                return text.Length <= MostCharacters
                    ? text
                    : new Refusal(SiteRefusals.AttributeWrong, $"{d.Name} has more than {MostCharacters} characters.", "Shorten it.");
            case AttributeKind.Number:
                var number = Quantities.Read(text);
                if (number.Refused(out var noNumber))
                    return noNumber with { Sentence = $"{d.Name}: {noNumber.Sentence}" };
                if (d.Least is { } least && number.Value < least || d.Most is { } most && number.Value > most)
                    return new Refusal(
                        SiteRefusals.AttributeWrong,
                        $"{d.Name} is {text}{(d.Unit is null ? "" : " " + d.Unit)}; it can be {Range(d)}.",
                        "Look at the paper again."
                    );
                return number.Value.ToString("0.######", CultureInfo.InvariantCulture);
            case AttributeKind.Date:
                var date = GoodsDate.Typed(d.Name, text);
                return date.Refused(out var noDate)
                    ? noDate
                    : date.Value!.Value.LastDay.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture);
            case AttributeKind.Choice:
                return (d.Choices ?? []).FirstOrDefault(c => c.Equals(text, StringComparison.OrdinalIgnoreCase)) is { } choice
                    ? choice
                    : new Refusal(
                        SiteRefusals.AttributeWrong,
                        $"{d.Name} cannot be {text}.",
                        $"Choose {string.Join(", ", d.Choices ?? [])}."
                    );
            case AttributeKind.YesNo:
                return text.ToLowerInvariant() switch
                {
                    "yes" or "true" => "yes",
                    "no" or "false" => "no",
                    _ => new Refusal(SiteRefusals.AttributeWrong, $"{d.Name} is yes or no.", "Choose one."),
                };
            default:
                throw new ArgumentOutOfRangeException(nameof(d), d.Kind, null);
        }
    }

    static string Range(AttributeDefinition d) =>
        (d.Least, d.Most) switch
        {
            ({ } a, { } b) => $"{Quantities.Show(a)} to {Quantities.Show(b)}",
            ({ } a, null) => $"{Quantities.Show(a)} or more",
            (null, { } b) => $"{Quantities.Show(b)} or less",
            _ => "any number",
        };
}
