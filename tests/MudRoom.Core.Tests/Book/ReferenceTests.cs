using System.Text.Json;
using CsCheck;
using MudRoom.Core.Book;
using MudRoom.Core.Door;

namespace MudRoom.Core.Tests.Book;

/// <summary>An entry names what it is about, as one text that another program can read and hash.</summary>
public sealed class ReferenceTests
{
    static readonly Gen<Reference> anyReference = Gen.Select(
        Gen.Enum<ReferenceKind>(),
        Gen.String[Gen.Char.Where(c => !char.IsSurrogate(c)), 0, 12],
        (kind, id) => new Reference(kind, id)
    );

    [Fact]
    public void What_is_written_is_read_back_each_thing_once_and_is_json_to_anybody() =>
        anyReference
            .Array[0, 12]
            .Sample(things =>
            {
                var text = References.Write(things);
                using var read = JsonDocument.Parse(text);
                return References.Read(text).ToHashSet().SetEquals(things)
                    && References.Read(text).Count == things.Distinct().Count()
                    && text == References.Write([.. things.AsEnumerable().Reverse()]);
            });

    /// <summary>RFC 8785, section 3.2.2: the example's string, and section 3.2.3: keys in the order of their UTF-16 units.</summary>
    [Fact]
    public void It_is_canonical_as_rfc_8785_says()
    {
        var strange = "\u20ac$\u000F\nA'\u0042\"\\\\\"/";
        Assert.Equal(
            "{\"about\":{\"serial\":[\"\u20ac$\\u000f\\nA'B\\\"\\\\\\\\\\\"/\"]}}",
            References.Write([new Reference(ReferenceKind.Serial, strange)])
        );
        Assert.Equal(
            """{"about":{"arrival":["A-2617"],"order":["PO-1","PO-2"],"vendorReturn":["V-1"]}}""",
            References.Write([
                new Reference(ReferenceKind.VendorReturn, "V-1"),
                Reference.Order("PO-2"),
                Reference.Arrival("A-2617"),
                Reference.Order("PO-1"),
                Reference.Order("PO-2"),
            ])
        );
        Assert.Equal("""{"about":{}}""", References.Write([]));
    }

    [Fact]
    public void Whatever_happened_its_subject_is_a_thing_of_one_kind_or_none()
    {
        foreach (var kind in Enum.GetValues<EntryKind>())
            _ = References.OfSubject(kind, "A-2617");
        Assert.Equal(Reference.Arrival("A-2617"), References.OfSubject(EntryKind.Counted, "A-2617"));
        Assert.Equal(Reference.Hold("H-12"), References.OfSubject(EntryKind.LotSplit, "H-12"));
        Assert.Equal(Reference.Inspection("I-3"), References.OfSubject(EntryKind.LotJoined, "I-3"));
        Assert.Equal(Reference.Receipt("R-7"), References.OfSubject(EntryKind.ReceiptReversed, "R-7"));
        Assert.Equal(Reference.Arrival("A-7"), References.OfSubject(EntryKind.ReceiptReversed, "A-7"));
        Assert.Equal(
            new Reference(ReferenceKind.SourceBatch, "12"),
            References.OfSubject(EntryKind.SourceBatchCorrected, "source batch 12")
        );
        Assert.Null(References.OfSubject(EntryKind.NotCounted, "LM"));
    }

    [Fact]
    public void An_entry_is_about_its_goods_its_places_who_did_it_and_what_it_names()
    {
        var entry = new LedgerEntry(
            ChainHead.Start,
            1,
            new Doer(default, 4, "Leila", "handheld", Guid.Empty),
            new GoodsCounted("A-2617", new Amount(5, "each", "Hoe"), null, null, "D1-R4", false) { About = [Reference.Order("PO-1")] },
            new Movement(new Goods(1, 2, 3, "S-9", 7), 5, new Place(Account.Vendor), Place.In(6, Standing.Usable), 8)
        );
        Assert.Equal(
            [
                "Arrival A-2617",
                "Batch 2",
                "Bin 6",
                "Device handheld",
                "Item 1",
                "Lot 7",
                "Lot 8",
                "Order PO-1",
                "Person 4",
                "Serial S-9",
                "Unit 3",
            ],
            References.Of(entry, _ => null).Select(r => $"{r.Kind} {r.Id}").Order(StringComparer.Ordinal)
        );
    }
}
