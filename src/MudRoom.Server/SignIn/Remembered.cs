using System.Collections.Concurrent;
using Microsoft.AspNetCore.Antiforgery;
using Microsoft.AspNetCore.Authentication;
using Microsoft.Extensions.Options;

namespace MudRoom.Server.SignIn;

/// <summary>A bounded memory of what is dear to work out and never changes: emptied when it is full, since all of it can be worked out
/// again.</summary>
public sealed class Remembered<TKey, TValue>(int most)
    where TKey : notnull
{
    readonly ConcurrentDictionary<TKey, TValue> known = new();

    public bool Find(TKey key, out TValue? value) => known.TryGetValue(key, out value);

    public void Keep(TKey key, TValue value)
    {
        if (known.Count >= most)
            known.Clear();
        known[key] = value;
    }
}

/// <summary>
/// Reads sign-in cookies, each decrypted once: the same text is always the same ticket. Whether the ticket is still good
/// (its end, the security stamp, whether the person is active) is asked at every request, outside of this.
/// </summary>
public sealed class RememberedTickets(ISecureDataFormat<AuthenticationTicket> inner) : ISecureDataFormat<AuthenticationTicket>
{
    readonly Remembered<(string, string?), AuthenticationTicket> known = new(2000);

    public string Protect(AuthenticationTicket data) => inner.Protect(data);

    public string Protect(AuthenticationTicket data, string? purpose) => inner.Protect(data, purpose);

    public AuthenticationTicket? Unprotect(string? protectedText) => Unprotect(protectedText, null);

    public AuthenticationTicket? Unprotect(string? protectedText, string? purpose)
    {
        if (protectedText is null)
            return null;
        if (known.Find((protectedText, purpose), out var there))
            return there!.Clone();
        var ticket = inner.Unprotect(protectedText, purpose);
        if (ticket is not null)
            known.Keep((protectedText, purpose), ticket.Clone());
        return ticket;
    }
}

/// <summary>Checks anti-forgery tokens, each pair once for each person: whether a pair fits never changes.</summary>
public sealed class TokenCheck(IAntiforgery antiforgery, IOptions<AntiforgeryOptions> options)
{
    readonly Remembered<(string Cookie, string Token, int PersonId), bool> fitting = new(2000);

    /// <summary>True when the request carries a token that belongs to its cookie and to the person.</summary>
    public async ValueTask<bool> Fits(HttpContext http, int personId)
    {
        var cookie = http.Request.Cookies[options.Value.Cookie.Name!];
        var token = http.Request.Headers[options.Value.HeaderName!].ToString();
        if (string.IsNullOrEmpty(cookie) || token.Length == 0)
            return false;
        if (fitting.Find((cookie, token, personId), out _))
            return true;
        if (!await antiforgery.IsRequestValidAsync(http))
            return false;
        fitting.Keep((cookie, token, personId), true);
        return true;
    }
}
