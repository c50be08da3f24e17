namespace Jugaad.Desk.Kept;

/// <summary>How this machine is reached from outside.</summary>
public sealed class MachineSettings
{
    public int Id { get; init; }

    /// <summary>
    /// The address under which others reach the program, such as <c>https://books.example</c>, without a slash at its
    /// end; empty where it is reached on this machine alone.
    /// </summary>
    public string OutsideAddress { get; set; } = "";

    /// <summary>
    /// The proxies whose word is taken for where a visitor comes from: addresses and ranges (<c>10.0.0.0/8</c>), parted
    /// by spaces.
    /// </summary>
    public string Proxies { get; set; } = "";

    /// <summary>Whether the outside comes by HTTPS alone.</summary>
    public bool HttpsOnly { get; set; }
}
