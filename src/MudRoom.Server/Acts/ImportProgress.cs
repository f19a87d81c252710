using System.Collections.Concurrent;

namespace MudRoom.Server.Acts;

/// <summary>How far an import is, 0 to 1.</summary>
public sealed record ImportProgressAnswer(double Share, string Sentence);

/// <summary>How far imports are, by the act's id; kept for a while after their end.</summary>
public sealed class ImportProgress
{
    readonly ConcurrentDictionary<Guid, (double Share, string Sentence)> known = new();

    public void Say(Guid act, double share, string sentence)
    {
        if (known.Count > 500)
            known.Clear();
        known[act] = (share, sentence);
    }

    public ImportProgressAnswer Of(Guid act) =>
        known.TryGetValue(act, out var there)
            ? new ImportProgressAnswer(there.Share, there.Sentence)
            : new ImportProgressAnswer(0, "Waiting.");
}
