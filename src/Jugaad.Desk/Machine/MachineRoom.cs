namespace Jugaad.Desk.Machine;

/// <summary>What is set for the machine and not for one set of books.</summary>
internal static class MachineRoom
{
    internal static IReadOnlyList<Type> Desks { get; } = [typeof(MachineSetup), typeof(OutsideAddress)];
}
