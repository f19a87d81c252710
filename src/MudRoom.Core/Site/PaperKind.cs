namespace MudRoom.Core.Site;

/// <summary>What a paper is, by the document name codes of UN/EDIFACT (data element 1001; the numbers stand from memory). Stored.</summary>
public enum PaperKind
{
    CertificateOfAnalysis = 1,
    CertificateOfConformity = 2,
    CertificateOfQuality = 3,
    TestReport = 4,
    SafetyDataSheet = 53,
    VeterinaryCertificate = 853,
    PhytosanitaryCertificate = 851,
    CertificateOfOrigin = 861,
    DangerousGoodsDeclaration = 890,
}

/// <summary>Papers in words.</summary>
public static class Papers
{
    /// <summary>All kinds, by their words.</summary>
    public static IReadOnlyList<PaperKind> All { get; } = [.. Enum.GetValues<PaperKind>().OrderBy(k => k.Word(), StringComparer.Ordinal)];

    /// <summary>What it is called: "test report".</summary>
    public static string Word(this PaperKind kind) =>
        kind switch
        {
            PaperKind.CertificateOfAnalysis => "certificate of analysis",
            PaperKind.CertificateOfConformity => "certificate of conformity",
            PaperKind.CertificateOfQuality => "certificate of quality",
            PaperKind.TestReport => "test report",
            PaperKind.SafetyDataSheet => "safety data sheet",
            PaperKind.VeterinaryCertificate => "veterinary certificate",
            PaperKind.PhytosanitaryCertificate => "phytosanitary certificate",
            PaperKind.CertificateOfOrigin => "certificate of origin",
            PaperKind.DangerousGoodsDeclaration => "dangerous goods declaration",
            _ => throw new ArgumentOutOfRangeException(nameof(kind), kind, null),
        };
}
