using Microsoft.Extensions.Options;

namespace MudRoom.Server.Acts;

/// <summary>
/// Endpoints whose handler is bound to requests when the first of them comes. To bind one is to compile how its arguments are read, which
/// takes some milliseconds; bound all at once at the start, a site's endpoints would keep everybody waiting for almost two seconds.
/// </summary>
static class BoundAtFirst
{
    /// <summary>Maps a handler as <see cref="EndpointRouteBuilderExtensions.MapMethods(IEndpointRouteBuilder, string, IEnumerable{string},
    /// Delegate)"/> does: what it takes and gives is known at once, to the description of the interface and to the choice by content
    /// type.</summary>
    /// <param name="filter">What looks at the arguments before the handler has them.</param>
    public static RouteHandlerBuilder MapAtFirst(
        this RouteGroupBuilder group,
        string method,
        string path,
        Delegate handler,
        Func<EndpointFilterInvocationContext, EndpointFilterDelegate, ValueTask<object?>> filter
    )
    {
        var services = ((IEndpointRouteBuilder)group).ServiceProvider;
        RequestDelegate? bound = null;
        Func<RequestDelegate>? bind = null;
        // Two first requests at once may both bind it: the same comes of it.
        var mapped = group.MapMethods(path, [method], http => (bound ??= bind!())(http));
        mapped.Add(endpoint =>
        {
            var pattern = ((RouteEndpointBuilder)endpoint).RoutePattern;
            var bare = new RouteEndpointBuilder(null, pattern, order: 0) { ApplicationServices = services };
            bare.FilterFactories.Add((_, next) => context => filter(context, next));
            var options = new RequestDelegateFactoryOptions
            {
                ServiceProvider = services,
                RouteParameterNames = pattern.Parameters.Select(p => p.Name),
                ThrowOnBadRequest = services.GetRequiredService<IOptions<RouteHandlerOptions>>().Value.ThrowOnBadRequest,
                EndpointBuilder = bare,
            };
            endpoint.Metadata.Add(handler.Method);
            var inferred = RequestDelegateFactory.InferMetadata(handler.Method, options);
            foreach (var item in bare.Metadata)
                endpoint.Metadata.Add(item);
            bind = () => RequestDelegateFactory.Create(handler, options, inferred).RequestDelegate;
        });
        return new RouteHandlerBuilder([mapped]);
    }
}
