namespace Jugaad.Desk.Machine;

internal static class MachineRoom
{
    internal static IReadOnlyList<Type> Desks { get; } = [typeof(MachineSetup), typeof(OutsideAddress)];
}
