using System.Net;
using System.Net.NetworkInformation;
using System.Security.Cryptography;
using System.Security.Cryptography.X509Certificates;

namespace MudRoom.Server.Hosting;

/// <summary>The certificate for HTTPS: a given one, or one made here and kept with the data.</summary>
public static class Certificates
{
    /// <summary>Loads the given PKCS#12 file, or the self-made one, making it when it is not there or runs out within a month.</summary>
    public static X509Certificate2 Load(string? given, string? password, string folder)
    {
        if (given is not null)
            return X509CertificateLoader.LoadPkcs12FromFile(given, password);
        var file = Path.Combine(folder, "self-made.pfx");
        if (File.Exists(file))
        {
            var kept = X509CertificateLoader.LoadPkcs12FromFile(file, null);
            if (kept.NotAfter > DateTime.UtcNow.AddMonths(1) && NamesAll(kept))
                return kept;
            kept.Dispose();
        }

        using var made = Make();
        File.WriteAllBytes(file, made.Export(X509ContentType.Pkcs12));
        if (!OperatingSystem.IsWindows())
            File.SetUnixFileMode(file, UnixFileMode.UserRead | UnixFileMode.UserWrite);
        return X509CertificateLoader.LoadPkcs12FromFile(file, null);
    }

    /// <summary>The addresses under which devices on the floor reach this machine.</summary>
    static IReadOnlyList<IPAddress> Addresses() =>
        [
            .. NetworkInterface
                .GetAllNetworkInterfaces()
                .Where(n => n.OperationalStatus == OperationalStatus.Up)
                .SelectMany(n => n.GetIPProperties().UnicastAddresses)
                .Select(a => a.Address)
                .Where(a => !a.IsIPv6LinkLocal)
                .Append(IPAddress.Loopback)
                .Distinct(),
        ];

    /// <summary>False when the machine has an address that the certificate does not name: it is made anew then.</summary>
    static bool NamesAll(X509Certificate2 certificate)
    {
        var named = certificate
            .Extensions.OfType<X509SubjectAlternativeNameExtension>()
            .SelectMany(e => e.EnumerateIPAddresses())
            .ToHashSet();
        return Addresses().All(named.Contains);
    }

    static X509Certificate2 Make()
    {
        using var key = ECDsa.Create(ECCurve.NamedCurves.nistP256);
        var request = new CertificateRequest($"CN={Dns.GetHostName()}", key, HashAlgorithmName.SHA256);
        var names = new SubjectAlternativeNameBuilder();
        names.AddDnsName(Dns.GetHostName());
        names.AddDnsName("localhost");
        foreach (var address in Addresses())
            names.AddIpAddress(address);
        request.CertificateExtensions.Add(names.Build());
        request.CertificateExtensions.Add(new X509EnhancedKeyUsageExtension([new Oid("1.3.6.1.5.5.7.3.1")], critical: false));
        return request.CreateSelfSigned(DateTimeOffset.UtcNow.AddDays(-1), DateTimeOffset.UtcNow.AddYears(2));
    }
}
