using System.Diagnostics.CodeAnalysis;

namespace MudRoom.Core;

/// <summary>
/// A rule's "no", as a value: nothing was changed, and the person is told what to do.
/// </summary>
/// <param name="Code">Stable, lower case with hyphens; programs and tests compare it, people never see it.</param>
/// <param name="Sentence">What happened and what it means, in plain words.</param>
/// <param name="Next">What to do now.</param>
public sealed record Refusal(string Code, string Sentence, string Next);

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
