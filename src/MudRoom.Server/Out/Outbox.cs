using System.Text.Encodings.Web;
using System.Text.Json;
using System.Text.Json.Nodes;
using MimeKit;
using MimeKit.Text;
using MudRoom.Core;
using MudRoom.Core.Book;
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
                OutKind.Mail => throw new ArgumentException("A mail is no JSON: it is sent.", nameof(kind)),
                _ => throw new ArgumentOutOfRangeException(nameof(kind), kind, null),
            },
            ["id"] = id.ToString(),
            ["at"] = act.Now.UtcDateTime.ToString("yyyy-MM-ddTHH:mm:ssZ", System.Globalization.CultureInfo.InvariantCulture),
            ["site"] = new JsonObject { ["code"] = act.Site.Code, ["gln"] = act.Site.Gln },
        };
        foreach (var (name, value) in body)
            whole[name] = value?.DeepClone();
        Add(act, id, kind, subject, whole.ToJsonString(asText) + "\n");
    }

    /// <summary>Puts a letter in line, whose sender has said yes by this act.</summary>
    /// <param name="about">The number of what it is about.</param>
    /// <param name="things">What else the entry is about.</param>
    public static Refusal? Send(Act act, string about, Mail mail, params Reference[] things)
    {
        if (mail.Fault is { } fault)
            return fault;
        var id = Guid.CreateVersion7(act.Now);
        using var letter = new MimeMessage
        {
            MessageId = $"{id:N}@{act.Site.Code.ToLowerInvariant()}.invalid",
            Date = act.Now,
            Subject = mail.Subject,
            Body = new TextPart(TextFormat.Plain) { Text = mail.Text + "\n\n" + act.Person.Name + ", " + act.Site.Name + "\n" },
        };
        // Who takes the letter away sends it, and knows the house's own address; this one is nobody's (RFC 2606).
        letter.From.Add(new MailboxAddress(act.Person.Name, $"mudroom@{act.Site.Code.ToLowerInvariant()}.invalid"));
        letter.To.Add(MailboxAddress.Parse(mail.To));
        Add(act, id, OutKind.Mail, about, letter.ToString());
        act.Write(new MailSent(about, mail.Subject, act.Person.Name) { About = things });
        return null;
    }

    static void Add(Act act, Guid id, OutKind kind, string subject, string body)
    {
        act.Db.OutMessages.Add(
            new OutMessage
            {
                Id = id,
                SiteId = act.Site.Id,
                Kind = kind,
                Subject = subject,
                Body = body,
                At = act.Now,
            }
        );
        act.Touch("out");
    }
}
