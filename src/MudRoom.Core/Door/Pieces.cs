namespace MudRoom.Core.Door;

/// <summary>A part of a count that lies on one order part and one unit.</summary>
/// <param name="PartId">The order line part; null when it is on no order.</param>
/// <param name="Unit">Index of the unit, or null for loose goods.</param>
/// <param name="Quantity">In base units.</param>
/// <param name="Over">How much of it is beyond what was ordered.</param>
public sealed record Piece(int? PartId, int? Unit, decimal Quantity, decimal Over);

/// <summary>A piece of a count, and whether somebody waits for it.</summary>
public sealed record PieceFor(Piece Piece, bool IsWaited);

/// <summary>Cuts a count where either its order part or its unit changes.</summary>
public static class Pieces
{
    /// <summary>The pieces, in order. Their quantities sum to the shares', and each unit gets exactly its content.</summary>
    /// <param name="shares">How the count is shared among order parts.</param>
    /// <param name="units">How many units the count makes; 0 for loose goods.</param>
    /// <param name="perUnit">Content of a unit in base units.</param>
    public static IEnumerable<Piece> Cut(IReadOnlyList<Share> shares, int units, decimal perUnit)
    {
        var unit = 0;
        var leftInUnit = units == 0 ? shares.Sum(s => s.Quantity) : perUnit;
        foreach (var share in shares)
        {
            var left = share.Quantity;
            while (left > 0)
            {
                var takes = Math.Min(left, leftInUnit);
                var over = Math.Max(0, Math.Min(takes, share.Over - (left - takes)));
                yield return new Piece(share.PartId, units == 0 ? null : unit, takes, over);
                left -= takes;
                leftInUnit -= takes;
                if (leftInUnit == 0 && unit < units - 1)
                {
                    unit++;
                    leftInUnit = perUnit;
                }
            }
        }
    }

    /// <summary>Cuts the pieces of a count at what is still waited for on their line parts: who waits gets what comes first.</summary>
    /// <param name="waited">By line part, how much of it is still waited for, in base units, at most what is open on it.</param>
    public static IEnumerable<PieceFor> AtWaited(IEnumerable<Piece> pieces, IReadOnlyDictionary<int, decimal> waited)
    {
        var left = new Dictionary<int, decimal>(waited);
        foreach (var piece in pieces)
        {
            var kept = piece.PartId is { } part ? Math.Min(piece.Quantity, left.GetValueOrDefault(part)) : 0;
            if (kept > 0)
            {
                left[piece.PartId!.Value] -= kept;
                yield return new PieceFor(piece with { Quantity = kept, Over = Math.Max(0, piece.Over - (piece.Quantity - kept)) }, true);
            }

            if (kept < piece.Quantity)
                yield return new PieceFor(
                    piece with
                    {
                        Quantity = piece.Quantity - kept,
                        Over = Math.Min(piece.Over, piece.Quantity - kept),
                    },
                    false
                );
        }
    }
}
