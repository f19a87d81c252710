using MudRoom.Core;
using MudRoom.Core.Out;
using MudRoom.Core.Site;
using MudRoom.Server.Acts;

namespace MudRoom.Server.Out;

/// <summary>Mails somebody outside about something.</summary>
/// <param name="About">The number of what it is about: a hold, an arrival, a recall.</param>
/// <param name="To">One address.</param>
public sealed record SendMailRequest(string About, string To, string Title, string Text);

/// <summary>Letters that people send; each by their own act, which is their yes.</summary>
public static class MailActs
{
    public static void Map(SiteRoutes routes) => routes.Act<SendMailRequest, DoneAnswer>("/notices/mail", Right.KeepPromises, Run);

    public static Task<Outcome<DoneAnswer>> Run(Act act, SendMailRequest request)
    {
        if (request.About.OrNull() is not { Length: <= 40 } about || about.Any(char.IsControl))
            return Task.FromResult<Outcome<DoneAnswer>>(
                new Refusal(HouseRefusals.ReferenceMissing, "Say what it is about.", "Choose a notice.")
            );
        var mail = new Mail(request.To.OrNull() ?? "", request.Title.OrNull() ?? "", request.Text ?? "");
        return Task.FromResult<Outcome<DoneAnswer>>(
            Outbox.Send(act, about, mail) is { } fault ? fault : new DoneAnswer($"The mail about {about} is in the outbox for {mail.To}.")
        );
    }
}
