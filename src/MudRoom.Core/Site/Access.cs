namespace MudRoom.Core.Site;

/// <summary>Who may change people: within the own sites, never oneself, and somebody must always be left who can.</summary>
public static class Access
{
    /// <summary>True when an administrator speaks for a person: works at all of their sites.</summary>
    public static bool SpeaksFor(Person administrator, Person person) =>
        person.Sites.All(s => administrator.Sites.Contains(s, StringComparer.OrdinalIgnoreCase));

    /// <summary>The refusal of a change to somebody of other sites: their badge, their password.</summary>
    public static Refusal? Borders(Person administrator, Person person) =>
        SpeaksFor(administrator, person)
            ? null
            : new Refusal(
                HouseRefusals.SiteNotYours,
                $"{person.Name} works at "
                    + $"{string.Join(" and ", person.Sites.Except(administrator.Sites, StringComparer.OrdinalIgnoreCase))}, where "
                    + $"you may not.",
                "Ask an administrator of that site."
            );

    /// <summary>What is wrong with how an administrator would leave a person, in words; null when nothing is.</summary>
    /// <param name="administrator">Who changes.</param>
    /// <param name="before">The person as they are, or null for a new one.</param>
    /// <param name="roles">As they would be.</param>
    /// <param name="sites">As they would be.</param>
    /// <param name="active">False for a leaver.</param>
    public static string? Fault(
        Person administrator,
        Person? before,
        IReadOnlyCollection<Role> roles,
        IReadOnlyCollection<string> sites,
        bool active
    )
    {
        var isAsBefore =
            before is not null
            && before.Active == active
            && before.Roles.Order().SequenceEqual(roles.Order())
            && before.Sites.Order().SequenceEqual(sites.Order());
        if (isAsBefore)
            return null;
        if (before?.Id == administrator.Id && before is not null)
            return "nobody gives themself roles or sites, or takes them away; another administrator does";
        if (before is not null && !SpeaksFor(administrator, before))
            return $"{before.Name} works at a site where you may not; an administrator of that site changes them";
        var beyond = sites.Except(administrator.Sites, StringComparer.OrdinalIgnoreCase).ToList();
        return beyond.Count == 0 ? null : $"you may not work at {string.Join(", ", beyond)} yourself, and let nobody in there";
    }

    /// <summary>The refusal of people among whom nobody could change anything any more.</summary>
    public static Refusal? NobodyLeft(IEnumerable<Person> after) =>
        after.Any(p => p.Active && p.Roles.Contains(Role.Administrator) && p.Sites.Count > 0)
            ? null
            : new Refusal(
                SiteRefusals.LastAdministrator,
                "No administrator would be left who can sign in.",
                "Leave at least one. Nothing was changed."
            );
}
