namespace MudRoom.Core.Identification;

/// <summary>What Identification refuses.</summary>
public static class IdentificationRefusals
{
    public static readonly RefusalKind CheckDigit = new(
        "check-digit",
        "… is not a valid container number: its last digit should be …, not ….",
        "Read it again from the container's rear door."
    );

    public static readonly RefusalKind ContainerCategory = new(
        "container-category",
        "… has … as its fourth letter; ISO 6346 knows U, J and Z.",
        "Read it again, or take it as a reference that is not ISO 6346."
    );

    public static readonly RefusalKind ContainerShape = new(
        "container-shape",
        "… is not a container number: four letters and seven digits.",
        "Read it from the container's rear door."
    );

    public static readonly RefusalKind DateImpossible = new(
        "date-impossible",
        "… is no date.",
        "Write it as year, month, day: 2026-03-10."
    );

    public static readonly RefusalKind GlnWrong = new("gln-wrong", "… is no GLN: it has 13 digits.", "Look at it again. Nothing was kept.");

    public static readonly RefusalKind GtinLength = new(
        "gtin-length",
        "… is not a GTIN: it has 8, 12, 13 or 14 digits.",
        "Scan it again, or type the item code."
    );

    public static readonly RefusalKind SsccLength = new("sscc-length", "… is not an SSCC: it has 18 digits.", "Scan the unit label again.");

    public static readonly RefusalKind AiUnknown = new(
        "ai-unknown",
        "… at place … is no GS1 application identifier.",
        "Scan the label again, or type what is printed below the bars."
    );

    public static readonly RefusalKind DateRange = new(
        "date-range",
        "(7007) at place …: it ends … and begins …, after its end.",
        "Scan the label again, or type what is printed below the bars."
    );

    public static readonly RefusalKind ElementAlone = new(
        "element-alone",
        "(…) at place … needs ",
        "Scan the label again, or type what is printed below the bars."
    );

    public static readonly RefusalKind ElementCharacters = new(
        "element-characters",
        "(…) at place … has …, which may not stand there.",
        "Scan the label again, or type what is printed below the bars."
    );

    public static readonly RefusalKind ElementClash = new(
        "element-clash",
        "(…) at place … may not stand with (…).",
        "Scan the label again, or type what is printed below the bars."
    );

    public static readonly RefusalKind ElementEmpty = new(
        "element-empty",
        "The code holds no element.",
        "Scan the label again, or type what is printed below the bars."
    );

    public static readonly RefusalKind ElementLong = new(
        "element-long",
        "(…) at place … is too long: … characters, … at most. A ",
        "Scan the label again, or type what is printed below the bars."
    );

    public static readonly RefusalKind ElementShort = new(
        "element-short",
        "(…) at place … is too short: … has … of ",
        "Scan the label again, or type what is printed below the bars."
    );

    public static readonly RefusalKind ElementTwice = new(
        "element-twice",
        "(…) stands twice, as … and as … at place ….",
        "Scan the label again, or type what is printed below the bars."
    );

    public static readonly RefusalKind TooLong = new(
        "too-long",
        "The code has more than 1000 characters.",
        "Scan the label again, or type what is printed below the bars."
    );

    public static readonly RefusalKind CompanyPrefix = new(
        "company-prefix",
        "… does not begin with the digits of a GS1 company prefix.",
        "Scan the label again, or type what is printed below the bars."
    );

    public static readonly RefusalKind CurrencyUnknown = new(
        "currency-unknown",
        "… is no currency number of ISO 4217.",
        "Scan the label again, or type what is printed below the bars."
    );

    public static readonly RefusalKind ElementDigits = new(
        "element-digits",
        "An element is wrong: it may not be of digits alone.",
        "Scan the label again, or type what is printed below the bars."
    );

    public static readonly RefusalKind ElementHyphen = new(
        "element-hyphen",
        "… stands where only a hyphen may, for below zero.",
        "Scan the label again, or type what is printed below the bars."
    );

    public static readonly RefusalKind ElementPercent = new(
        "element-percent",
        "… has a % that two hexadecimal digits do not follow.",
        "Scan the label again, or type what is printed below the bars."
    );

    public static readonly RefusalKind ElementPiece = new(
        "element-piece",
        "… of … is no piece of a total.",
        "Scan the label again, or type what is printed below the bars."
    );

    public static readonly RefusalKind ElementSex = new(
        "element-sex",
        "… is no code of ISO 5218.",
        "Scan the label again, or type what is printed below the bars."
    );

    public static readonly RefusalKind ElementWinding = new(
        "element-winding",
        "… is no winding direction: 0, 1 or 9.",
        "Scan the label again, or type what is printed below the bars."
    );

    public static readonly RefusalKind ElementYesno = new(
        "element-yesno",
        "An element is wrong: it is 0 or 1.",
        "Scan the label again, or type what is printed below the bars."
    );

    public static readonly RefusalKind ElementZero = new(
        "element-zero",
        "An element is wrong: it may not begin with 0.",
        "Scan the label again, or type what is printed below the bars."
    );

    public static readonly RefusalKind TimeImpossible = new(
        "time-impossible",
        "… is no time of day.",
        "Scan the label again, or type what is printed below the bars."
    );

    public static readonly RefusalKind CountryUnknown = new(
        "country-unknown",
        "… is no country of ISO 3166.",
        "Type its two letters or its name."
    );

    public static readonly RefusalKind PackageType = new(
        "package-type",
        "… is no package type of the list.",
        "Choose one. Nothing was kept."
    );
}
