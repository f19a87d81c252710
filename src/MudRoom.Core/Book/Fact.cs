using System.Text;
using System.Text.Json;
using System.Text.Json.Serialization;
using MudRoom.Core.Site;

namespace MudRoom.Core.Book;

/// <summary>
/// Something that happened, as values: one of a closed set, each in the room that it belongs to. The ledger keeps the values; the words are
/// made of them on the way out. A fact that is written once is read for ever: its name and the names of its values never change.
/// </summary>
/// <param name="Kind">What the entry of the ledger records.</param>
/// <param name="Subject">What it is about: a number of papers, an address, a code.</param>
public abstract record Fact([property: JsonIgnore] EntryKind Kind, [property: JsonIgnore] string Subject)
{
    /// <summary>What it is about besides its subject and the goods and places of its movement.</summary>
    [JsonIgnore]
    public IReadOnlyList<Reference> About { get; init; } = [];

    /// <summary>All that it names: its subject, where that is a thing the book knows, and what it is about besides.</summary>
    public IReadOnlyList<Reference> References() => Book.References.OfSubject(Kind, Subject) is { } thing ? [thing, .. About] : About;

    /// <summary>What happened, in words.</summary>
    public abstract string Words(Wording wording);

    /// <summary>A remark of somebody behind a sentence; nothing where there is none.</summary>
    protected static string Behind(string mark, string? remark) => remark is null ? "" : mark + remark;
}

/// <summary>So much of an item, as its name and unit were then.</summary>
public sealed record Amount(decimal Quantity, string Unit, string Item)
{
    public static Amount Of(decimal quantity, Item item) => new(quantity, item.UnitWord, item.Name);

    /// <summary>"12 each of Draw hoe head 16 cm".</summary>
    public string Words => $"{Quantities.Show(Quantity)} {Unit} of {Item}";
}

/// <summary>A line of an order.</summary>
public sealed record LineNamed(string Order, int Line)
{
    public string Words => $"{Order} line {Line}";
}

/// <summary>Facts as the text that is hashed, and back.</summary>
public static class FactText
{
    static readonly Dictionary<string, Type> byName = typeof(Fact)
        .Assembly.GetTypes()
        .Where(t => t.IsSubclassOf(typeof(Fact)) && !t.IsAbstract)
        .ToDictionary(NameOf);

    /// <summary>By type, all that stands before the values.</summary>
    static readonly Dictionary<Type, string> beginnings = byName.ToDictionary(
        known => known.Value,
        known => $"\"what\":\"{known.Key}\",\"with\":"
    );

    static readonly JsonSerializerOptions reading = new(JsonSerializerDefaults.Web)
    {
        NumberHandling = JsonNumberHandling.AllowReadingFromString,
        Converters = { new Reader() },
    };

    /// <summary>All facts there are, by the names they are written under.</summary>
    public static IReadOnlyDictionary<string, Type> Known => byName;

    /// <summary>The name a fact is written under.</summary>
    public static string NameOf(Type fact) => CanonicalJson.Key(fact.Name);

    /// <summary>As canonical JSON (RFC 8785):
    /// {"about":{"arrival":["A-2617"]},"what":"broughtToDoor","with":{"arrival":"A-2617","door":4}}.</summary>
    public static string Write(Fact fact)
    {
        var text = new StringBuilder("{\"about\":", 256);
        References.Write(text, fact.References());
        WhatWith(text.Append(','), fact);
        return text.Append('}').ToString();
    }

    /// <summary>Name and values.</summary>
    internal static void WhatWith(StringBuilder text, Fact fact)
    {
        text.Append(beginnings[fact.GetType()]);
        CanonicalJson.Object(text, fact);
    }

    /// <summary>What was written, with what it is about.</summary>
    /// <returns>Null where the text names no fact: in entries from before there were values, and of a program newer than this
    /// one.</returns>
    public static Fact? Read(string text)
    {
        if (text.Length == 0)
            return null;
        using var read = JsonDocument.Parse(text);
        return Read(read.RootElement) is { } fact ? fact with { About = References.Read(text) } : null;
    }

    static Fact? Read(JsonElement element) =>
        element.TryGetProperty("what", out var what) && byName.TryGetValue(what.GetString()!, out var type)
            ? (Fact?)element.GetProperty("with").Deserialize(type, reading)
            : null;

    /// <summary>Facts that other facts name.</summary>
    sealed class Reader : JsonConverter<Fact>
    {
        // Only where any fact may stand; each of them is read by its own values.
        public override bool CanConvert(Type typeToConvert) => typeToConvert == typeof(Fact);

        public override Fact? Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options)
        {
            using var read = JsonDocument.ParseValue(ref reader);
            return FactText.Read(read.RootElement);
        }

        public override void Write(Utf8JsonWriter writer, Fact value, JsonSerializerOptions options) => throw new NotSupportedException();
    }
}
