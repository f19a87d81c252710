namespace MudRoom.Core.Door;

/// <summary>How a label stands on its way to paper.</summary>
public enum PrintState
{
    Waiting,
    Printed,
    Failed,
}

/// <summary>One label sent to a printer.</summary>
public sealed class PrintJob
{
    public int Id { get; init; }
    public required int SiteId { get; init; }
    public required string Printer { get; init; }

    /// <summary>What it is, in words.</summary>
    public required string Title { get; init; }

    /// <summary>The unit it is for; null for labels of loose packs.</summary>
    public string? Sscc { get; init; }

    /// <summary>The element string of a pack's label, its parts as AI and value; empty for a unit.</summary>
    public IReadOnlyList<LabelElement> Code { get; init; } = [];
    public IReadOnlyList<LabelLine> Lines { get; init; } = [];

    /// <summary>What has to be seen first: where the goods go, that they are held.</summary>
    public string? Banner { get; init; }

    /// <summary>Package type by UN/ECE Recommendation 21, or empty.</summary>
    public string PackageType { get; init; } = "";

    /// <summary>a6 or 4x6.</summary>
    public required string Size { get; init; }
    public required int Copies { get; init; }
    public required string By { get; init; }
    public required DateTimeOffset At { get; init; }
    public PrintState State { get; private set; }
    public string? Error { get; private set; }

    /// <summary>The printer took it.</summary>
    public void Done() => (State, Error) = (PrintState.Printed, null);

    /// <summary>The printer did not take it.</summary>
    public void Fail(string why) => (State, Error) = (PrintState.Failed, why[..Math.Min(why.Length, 300)]);

    /// <summary>Sends it again.</summary>
    public void Again() => (State, Error) = (PrintState.Waiting, null);
}
