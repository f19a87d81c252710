using System.Globalization;
using MudRoom.Core.Road;
using MudRoom.Core.Site;

namespace MudRoom.Demo;

/// <summary>The people of the demo.</summary>
public static class PeopleList
{
    /// <summary>All of them, with the passwords that are printed at its start.</summary>
    public static IReadOnlyList<DemoPerson> Make()
    {
        var id = 0;
        return
        [
            New("Wanjiru Holloway", "LM HB", Role.Supervisor),
            New("Tomasz Birkett", "LM", Role.Receiver),
            New("Leila Fennimore", "LM", Role.Receiver),
            New("Maren Oduya", "LM", Role.Receiver),
            New("Ikenna Prowse", "LM HB", Role.Receiver),
            New("Sunita Gellatly", "LM", Role.Inspector),
            New("Bram Okonjo", "LM", Role.Inspector),
            New("Petra Lindqvale", "LM", Role.Driver),
            New("Yusuf Tarn", "LM", Role.Driver),
            New("Callum Adeyemi-Roe", "LM HB", Role.Driver),
            New("Efua Marsh", "LM", Role.GateHand),
            New("Dilys Pemberwick", "LM HB", Role.Buyer),
            New("Anselm Kirabo", "LM HB", Role.Administrator),
        ];

        DemoPerson New(string name, string sites, Role role)
        {
            var first = name.Split(' ')[0].ToLowerInvariant();
            return new DemoPerson(
                new Person
                {
                    Id = ++id,
                    Name = name,
                    SignInName = first,
                    Roles = [role],
                    Sites = [.. sites.Split(' ')],
                    Skills = SkillsOf(first),
                },
                $"{first}-mud-{id:00}"
            );
        }
    }

    /// <summary>Who may unload dangerous goods; one ticket has lapsed.</summary>
    static List<Skill> SkillsOf(string name) =>
        name switch
        {
            "ikenna" => [new Skill("dangerous goods", new DateOnly(2026, 11, 30)), new Skill("reach truck", new DateOnly(2027, 5, 1))],
            "tomasz" => [new Skill("dangerous goods", new DateOnly(2026, 2, 28)), new Skill("reach truck", new DateOnly(2026, 9, 1))],
            "maren" or "leila" => [new Skill("reach truck", new DateOnly(2027, 1, 15))],
            _ => [],
        };

    /// <summary>Who is here, from when to when, on the working days around the demo's Tuesday.</summary>
    public static IReadOnlyList<RosterEntry> Roster(IReadOnlyList<DemoPerson> people)
    {
        (string Name, string From, string To)[] hours =
        [
            ("wanjiru", "06:00", "17:00"),
            ("tomasz", "06:00", "17:00"),
            ("leila", "06:00", "17:00"),
            ("maren", "06:00", "15:00"),
            ("ikenna", "07:00", "17:30"),
            ("sunita", "07:00", "16:00"),
            ("bram", "08:00", "16:00"),
            ("petra", "06:00", "16:00"),
            ("yusuf", "07:00", "17:00"),
            ("callum", "08:00", "17:00"),
            ("efua", "06:00", "17:00"),
        ];
        var roster = new List<RosterEntry>();
        for (var day = new DateOnly(2026, 3, 9); day <= new DateOnly(2026, 3, 14); day = day.AddDays(1))
            foreach (var (name, from, to) in hours)
            {
                if (day.DayOfWeek == DayOfWeek.Saturday && name is "bram" or "callum")
                    continue;
                roster.Add(
                    new RosterEntry
                    {
                        SiteId = Layout.LowMeadow,
                        Day = day,
                        PersonId = people.First(p => p.Person.SignInName == name).Person.Id,
                        From = TimeOnly.Parse(from, CultureInfo.InvariantCulture),
                        To = day.DayOfWeek == DayOfWeek.Saturday ? new TimeOnly(12, 0) : TimeOnly.Parse(to, CultureInfo.InvariantCulture),
                    }
                );
            }

        return roster;
    }
}
