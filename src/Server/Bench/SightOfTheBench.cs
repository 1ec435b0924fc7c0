using Microsoft.AspNetCore.SignalR;
using Osierwand.Server.People;
using Osierwand.Store;

namespace Osierwand.Server.Bench;

/// <summary>A call over the open line sees what its caller may see: it has a scope of its own, which no request has opened.</summary>
internal sealed class SightOfTheBench : IHubFilter
{
    public ValueTask<object?> InvokeMethodAsync(HubInvocationContext invocationContext, Func<HubInvocationContext, ValueTask<object?>> next)
    {
        invocationContext.ServiceProvider.GetRequiredService<Sight>().See(invocationContext.Context.User);
        return next(invocationContext);
    }
}
