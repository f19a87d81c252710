using MudRoom.Core.Site;

namespace MudRoom.Core.Tests;

static class Drivers
{
    public static Person Named(string name, int id = 1) =>
        new()
        {
            Id = id,
            Name = name,
            SignInName = name,
            Roles = [Role.Driver],
            Sites = [],
        };
}
