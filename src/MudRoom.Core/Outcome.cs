using System.Diagnostics.CodeAnalysis;
using System.Text.Json.Serialization;

namespace MudRoom.Core;

/// <summary>A kind of "no": what it is called, what it says and advises, and what it is over HTTP. Each room keeps its own in a class of
/// such values.</summary>
/// <param name="Code">Stable, lower case with hyphens; programs compare it, people never see it.</param>
/// <param name="Says">The sentence, with … for what differs from case to case.</param>
/// <param name="Next">What to do, likewise.</param>
/// <param name="Status">HTTP status (RFC 9110): 422 where nothing else fits.</param>
public sealed record RefusalKind(string Code, string Says, string Next, int Status = 422);

/// <summary>
/// A rule's "no", as a value: nothing was changed, and the person is told what to do.
/// </summary>
/// <param name="Kind">Which it is.</param>
/// <param name="Sentence">What happened and what it means, in plain words.</param>
/// <param name="Next">What to do now.</param>
public sealed record Refusal([property: JsonIgnore] RefusalKind Kind, string Sentence, string Next)
{
    /// <summary>The code of its kind.</summary>
    public string Code => Kind.Code;
}

/// <summary>Either the value a rule arrived at, or the <see cref="Core.Refusal"/> it gave instead.</summary>
/// <typeparam name="T">What the rule yields when it says yes.</typeparam>
public readonly struct Outcome<T>
{
    readonly T? value;

    Outcome(T? value, Refusal? refusal)
    {
        this.value = value;
        Refusal = refusal;
    }

    /// <summary>The refusal, or null when there is a value.</summary>
    public Refusal? Refusal { get; }

    /// <summary>The value. Reading it from a refused outcome is a bug and throws.</summary>
    public T Value => Refusal is null ? value! : throw new InvalidOperationException($"Refused: {Refusal.Code}");

    /// <summary>True when the rule said no; <paramref name="refusal"/> then says why.</summary>
    public bool Refused([NotNullWhen(true)] out Refusal? refusal)
    {
        refusal = Refusal;
        return refusal is not null;
    }

    /// <summary>True when there is a value.</summary>
    public bool Accepted([NotNullWhen(true)] out T? result)
    {
        result = value;
        return Refusal is null;
    }

    /// <summary>The outcome that holds a value; for interfaces, from which nothing converts by itself.</summary>
    public static Outcome<T> Of(T value) => new(value, null);

    public static implicit operator Outcome<T>(T value) => new(value, null);

    public static implicit operator Outcome<T>(Refusal refusal) => new(default, refusal);
}
