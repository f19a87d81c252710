using System.Buffers;
using System.Collections;
using System.Collections.Concurrent;
using System.Globalization;
using System.Linq.Expressions;
using System.Reflection;
using System.Text;

namespace MudRoom.Core.Book;

/// <summary>
/// Writes values as canonical JSON (RFC 8785): keys in the order of their UTF-16 units, no spaces, nothing escaped that need not be. What
/// numbers of JSON might not hold exactly is text: a quantity without zeros at its end, an instant in UTC to its last 100 ns, a date. What
/// is not there is left out.
/// </summary>
static class CanonicalJson
{
    /// <param name="Key">As it is written, with its colon.</param>
    sealed record Member(string Key, Func<object, object?> Of);

    static readonly ConcurrentDictionary<Type, Member[]> members = new();

    static readonly SearchValues<char> escaped = SearchValues.Create(['"', '\\', .. Enumerable.Range(0, ' ').Select(c => (char)c)]);

    /// <summary>The members of a record, as those of its primary constructor.</summary>
    public static void Object(StringBuilder text, object record)
    {
        text.Append('{');
        var first = true;
        foreach (var member in members.GetOrAdd(record.GetType(), MembersOf))
        {
            if (member.Of(record) is not { } value)
                continue;
            if (!first)
                text.Append(',');
            first = false;
            text.Append(member.Key);
            Value(text, value);
        }

        text.Append('}');
    }

    static void Value(StringBuilder text, object value)
    {
        switch (value)
        {
            case string words:
                Quote(text, words);
                break;
            case bool yes:
                text.Append(yes ? "true" : "false");
                break;
            case int or long:
                text.Append(CultureInfo.InvariantCulture, $"{value}");
                break;
            case Enum named:
                text.Append(CultureInfo.InvariantCulture, $"{Convert.ToInt32(named, CultureInfo.InvariantCulture)}");
                break;
            case decimal quantity:
                Quote(text, quantity.ToString(LedgerEntry.QuantityForm, CultureInfo.InvariantCulture));
                break;
            case DateTimeOffset at:
                Quote(text, at.UtcDateTime.ToString("yyyy-MM-dd'T'HH:mm:ss.fffffff'Z'", CultureInfo.InvariantCulture));
                break;
            case DateOnly day:
                Quote(text, day.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture));
                break;
            case TimeOnly hour:
                Quote(text, hour.ToString("HH:mm:ss", CultureInfo.InvariantCulture));
                break;
            case Fact fact:
                FactText.WhatWith(text.Append('{'), fact);
                text.Append('}');
                break;
            case IEnumerable list:
                List(text, list);
                break;
            default:
                Object(text, value);
                break;
        }
    }

    static void List(StringBuilder text, IEnumerable list)
    {
        text.Append('[');
        var first = true;
        foreach (var one in list)
        {
            if (!first)
                text.Append(',');
            first = false;
            Value(text, one);
        }

        text.Append(']');
    }

    static Member[] MembersOf(Type type) =>
        [
            .. type.GetConstructors(BindingFlags.Public | BindingFlags.Instance)
                .MaxBy(c => c.GetParameters().Length)!
                .GetParameters()
                .OrderBy(p => Key(p.Name!), StringComparer.Ordinal)
                .Select(p => new Member($"\"{Key(p.Name!)}\":", Getter(type, p.Name!))),
        ];

    /// <summary>Compiled once: a fact is written with every scan.</summary>
    static Func<object, object?> Getter(Type type, string name)
    {
        var record = Expression.Parameter(typeof(object));
        var value = Expression.Property(Expression.Convert(record, type), name);
        return Expression.Lambda<Func<object, object?>>(Expression.Convert(value, typeof(object)), record).Compile();
    }

    /// <summary>A name as a key: its first letter small.</summary>
    public static string Key(string name) => char.ToLowerInvariant(name[0]) + name[1..];

    /// <summary>A string: only quotation mark, backslash and control characters are escaped.</summary>
    public static void Quote(StringBuilder text, string value)
    {
        text.Append('"');
        if (value.AsSpan().IndexOfAny(escaped) < 0)
        {
            text.Append(value).Append('"');
            return;
        }

        foreach (var c in value)
            _ = c switch
            {
                '"' => text.Append("\\\""),
                '\\' => text.Append("\\\\"),
                '\b' => text.Append("\\b"),
                '\t' => text.Append("\\t"),
                '\n' => text.Append("\\n"),
                '\f' => text.Append("\\f"),
                '\r' => text.Append("\\r"),
                < ' ' => text.Append(CultureInfo.InvariantCulture, $"\\u{(int)c:x4}"),
                _ => text.Append(c),
            };
        text.Append('"');
    }
}
