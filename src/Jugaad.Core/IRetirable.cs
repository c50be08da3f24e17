namespace Jugaad.Core;

/// <summary>
/// A kept thing that is offered for a time: retired it stays where it was used, and is offered no more.
/// </summary>
public interface IRetirable
{
    bool Retired { get; }

    void Retire(bool retired);
}
