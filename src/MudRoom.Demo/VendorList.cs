using MudRoom.Core.Site;

namespace MudRoom.Demo;

static class VendorList
{
    // Telephone numbers from ranges kept for fiction; mail under example domains.
    static readonly string[] rows =
    [
        "NILG;Nilgama Coir;LK;Ruwani Dissanaike",
        "MALA;Malakunda Seeds;IN;Devesh Paralkar",
        "BRAC;Brackenfold Tools;GB;Hester Ullathorne",
        "KITA;Kitagiri Blades;JP;Nobuo Harukata",
        "SALT;Saltmarke Nutrients;NO;Sindre Aalvik",
        "ZAND;Zandhoeve Uien;NL;Marijke Oosterlaan",
        "HALV;Halvorsgård Frø;DK;Karen Halvorsdal",
        "LAMG;Lam Giang Pottery;VN;Ngoc Tran Vy",
        "VALM;Terracotta Valmora;IT;Ornella Dassaro",
        "TARN;Tarnwick Irrigation;GB;Osric Fenwold",
        "QUER;Quernstone Composts;IE;Niamh Corragh",
        "MALO;Pépinières Malouet;FR;Étienne Brossac",
        "LATT;Lattimer Fleece;GB;Pru Lattimer",
        "WERV;Wervelaar Zaden;NL;Joost Kempenaar",
        "OLLE;Ollenshaw Sundries;GB;Dorrit Ollenshaw",
        // Who sends goods without selling them: the other store, and a customer who gives some back.
        "HILL;Hill Barn store;GB;Gwen Tarrowby",
        "HOLN;Hollin Nurseries;GB;Maud Hollin",
    ];

    public static IReadOnlyList<Vendor> Make() =>
        [
            .. rows.Select(
                (row, i) =>
                {
                    var cells = row.Split(';');
                    return new Vendor
                    {
                        Id = i + 1,
                        Code = cells[0],
                        Name = cells[1],
                        Country = cells[2],
                        ContactName = cells[3],
                        Telephone = $"+44 1632 960{400 + i * 7}",
                        Mail = $"orders@{cells[0].ToLowerInvariant()}.example.com",
                    };
                }
            ),
        ];
}
