using Jugaad.Desk.Outside;

namespace Jugaad.Desk.Machine;

/// <summary>
/// The address of which links are made: the one that the outside uses, else where the server listens.
/// </summary>
public sealed class OutsideAddress(MachineSetup machine, ISiteAddress listening)
{
    /// <returns>Without a slash at its end.</returns>
    public async Task<string> NowAsync(CancellationToken stop = default) =>
        await machine.SettingsAsync(stop) is { OutsideAddress.Length: > 0 } settings
            ? settings.OutsideAddress
            : listening.Address;
}
