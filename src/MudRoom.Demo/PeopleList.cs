using MudRoom.Core.Site;

namespace MudRoom.Demo;

static class PeopleList
{
    public static IReadOnlyList<DemoPerson> Make()
    {
        var id = 0;
        return
        [
            New("Wanjiru Holloway", "LM HB", Role.Supervisor), New("Tomasz Birkett", "LM", Role.Receiver), New("Leila Fennimore", "LM", Role.Receiver),
            New("Maren Oduya", "LM", Role.Receiver), New("Ikenna Prowse", "LM HB", Role.Receiver), New("Sunita Gellatly", "LM", Role.Inspector),
            New("Bram Okonjo", "LM", Role.Inspector), New("Petra Lindqvale", "LM", Role.Driver), New("Yusuf Tarn", "LM", Role.Driver),
            New("Callum Adeyemi-Roe", "LM HB", Role.Driver), New("Efua Marsh", "LM", Role.GateHand), New("Dilys Pemberwick", "LM HB", Role.Buyer),
            New("Anselm Kirabo", "LM HB", Role.Administrator),
        ];

        DemoPerson New(string name, string sites, Role role)
        {
            var first = name.Split(' ')[0].ToLowerInvariant();
            return new DemoPerson(new Person { Id = ++id, Name = name, SignInName = first, Roles = [role], Sites = [.. sites.Split(' ')] }, $"{first}-mud-{id:00}");
        }
    }
}
