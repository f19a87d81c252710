using System.Text.Encodings.Web;
using System.Text.Json;
using System.Text.Json.Nodes;
using MudRoom.Core.Out;
using MudRoom.Server.Acts;

namespace MudRoom.Server.Out;

/// <summary>Messages that acts emit: written in the act's own transaction, delivered afterwards.</summary>
public static class Outbox
{
    static readonly JsonSerializerOptions asText = new() { Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping, WriteIndented = true };

    /// <summary>Puts a message in line; id, kind, instant and site head its body.</summary>
    public static void Emit(Act act, OutKind kind, string subject, JsonObject body)
    {
        var id = Guid.CreateVersion7(act.Now);
        var whole = new JsonObject
        {
            ["message"] = kind switch
            {
                OutKind.ReceiptPosted => "receipt-posted",
                OutKind.ReceiptSettled => "receipt-settled",
                OutKind.ReceiptReversed => "receipt-reversed",
                OutKind.QualityNotice => "quality-notice",
                OutKind.ReceiptAcceptance => "receipt-acceptance",
                OutKind.ReturnFinding => "return-finding",
                OutKind.GoodsDecided => "goods-decided",
                _ => throw new ArgumentOutOfRangeException(nameof(kind), kind, null),
            },
            ["id"] = id.ToString(),
            ["at"] = act.Now.UtcDateTime.ToString("yyyy-MM-ddTHH:mm:ssZ", System.Globalization.CultureInfo.InvariantCulture),
            ["site"] = new JsonObject { ["code"] = act.Site.Code, ["gln"] = act.Site.Gln },
        };
        foreach (var (name, value) in body)
            whole[name] = value?.DeepClone();
        act.Db.OutMessages.Add(
            new OutMessage
            {
                Id = id,
                SiteId = act.Site.Id,
                Kind = kind,
                Subject = subject,
                Body = whole.ToJsonString(asText) + "\n",
                At = act.Now,
            }
        );
        act.Touch("out");
    }
}
