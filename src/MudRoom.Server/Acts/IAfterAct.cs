namespace MudRoom.Server.Acts;

/// <summary>What follows from every act, whatever it is: done in its transaction, once it is known that it is kept.</summary>
public interface IAfterAct
{
    /// <summary>Follows an act.</summary>
    Task After(Act act);
}
