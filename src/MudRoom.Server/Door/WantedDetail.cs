using MudRoom.Core.Identification;

namespace MudRoom.Server.Door;

/// <summary>Item, batch and date scanned one after another: a plain text that is no code of its own fills what the count in hand still wants.</summary>
static class WantedDetail
{
    /// <summary>The text as the first wanted field that it fits, or null.</summary>
    /// <param name="text">As scanned.</param>
    /// <param name="wanted">serial, sourceBatch, production, bestBefore, expiry, in the order in which they are asked.</param>
    /// <param name="today">The date at the site, for six digits YYMMDD.</param>
    public static Reading? Of(string text, IReadOnlyList<string> wanted, DateOnly today) => text.Length is 0 or > 40 ? null : wanted.Select(field => Field(field, text, today)).FirstOrDefault(r => r is not null);

    static Reading? Field(string field, string text, DateOnly today) => field switch
    {
        "serial" => Details($"Serial {text}.", text) with { Serial = text },
        "sourceBatch" => Details($"Source batch {text}.", text) with { SourceBatch = text },
        "production" when Date(text, today, DayZero.MonthOnly) is { } date => Details($"Produced {date}.", text) with { Production = date },
        "bestBefore" when Date(text, today, DayZero.LastOfMonth) is { } date => Details($"Best before {date}.", text) with { BestBefore = date },
        "expiry" when Date(text, today, DayZero.LastOfMonth) is { } date => Details($"Expiry {date}.", text) with { Expiry = date },
        _ => null,
    };

    static string? Date(string text, DateOnly today, DayZero zero) => text.Length == 6 && CheckDigit.IsDigits(text)
        ? GoodsDate.Read(text, today, zero)?.ToString()
        : GoodsDate.Typed("", text).Accepted(out var date) ? date?.ToString() : null;

    static Reading Details(string words, string code) => new(ReadingKind.Details, words, code);
}
