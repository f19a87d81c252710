using System.Text.Json;
using System.Text.Json.Serialization;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.ChangeTracking;
using Microsoft.EntityFrameworkCore.Metadata.Builders;
using Microsoft.EntityFrameworkCore.Storage.ValueConversion;
using MudRoom.Core.Book;

namespace MudRoom.Data;

/// <summary>
/// The one place that says how values lie in SQLite, which has neither decimals nor times with an offset: decimals as whole
/// millionths, instants as UTC ticks, both as INTEGER, so that sums, comparisons and indexes work in SQL and stay exact.
/// </summary>
public static class Storage
{
    /// <summary>Parts of one that a stored decimal counts in.</summary>
    public const decimal Millionths = 1_000_000m;

    static readonly JsonSerializerOptions json = new(JsonSerializerDefaults.Web) { Converters = { new JsonStringEnumConverter() } };

    /// <summary>A decimal as whole millionths.</summary>
    /// <exception cref="InvalidOperationException">It has more than six decimals: rounding it would lose goods.</exception>
    public static long ToMillionths(decimal value)
    {
        var scaled = value * Millionths;
        return scaled == decimal.Truncate(scaled)
            ? (long)scaled
            : throw new InvalidOperationException($"{value} has more than six decimals.");
    }

    /// <summary>Whole millionths as a decimal.</summary>
    public static decimal FromMillionths(long value) => value / Millionths;

    /// <summary>Applies the conversions to every property of the model.</summary>
    public static void Conventions(ModelConfigurationBuilder builder)
    {
        builder.Properties<decimal>().HaveConversion<DecimalConverter>().HaveColumnType("INTEGER");
        builder.Properties<DateTimeOffset>().HaveConversion<InstantConverter>().HaveColumnType("INTEGER");
        builder.Properties<Standing>().HaveConversion<StandingConverter>();
        builder.Properties<Guid>().HaveConversion<GuidConverter>().HaveColumnType("BLOB");
    }

    /// <summary>A value as it is kept in a column.</summary>
    public static string ToJson<T>(T value) => JsonSerializer.Serialize(value, json);

    /// <summary>What was kept.</summary>
    public static T FromJson<T>(string text) => JsonSerializer.Deserialize<T>(text, json)!;

    /// <summary>Keeps an immutable value as JSON text.</summary>
    public static PropertyBuilder<T> AsJson<T>(this PropertyBuilder<T> property) =>
        property.HasConversion(
            value => ToJson(value),
            text => FromJson<T>(text),
            new ValueComparer<T>((a, b) => ReferenceEquals(a, b), value => value == null ? 0 : value.GetHashCode(), value => value)
        );

    sealed class DecimalConverter() : ValueConverter<decimal, long>(v => ToMillionths(v), v => FromMillionths(v));

    sealed class InstantConverter() : ValueConverter<DateTimeOffset, long>(v => v.UtcTicks, v => new DateTimeOffset(v, TimeSpan.Zero));

    sealed class StandingConverter() : ValueConverter<Standing, int>(v => v.Id, v => new Standing(v));

    sealed class GuidConverter() : ValueConverter<Guid, byte[]>(v => v.ToByteArray(true), v => new Guid(v, true));
}
