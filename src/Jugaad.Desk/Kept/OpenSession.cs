namespace Jugaad.Desk.Kept;

/// <summary>Somebody who is signed in on some machine. It ends here, whatever the browser there still keeps.</summary>
public sealed class OpenSession
{
    public int Id { get; init; }

    public int PersonId { get; init; }

    /// <summary>Of the word that the browser keeps, which itself is not kept.</summary>
    public string KeyHash { get; init; } = "";

    /// <summary>What is known of who it is, protected by this installation's keys.</summary>
    public byte[] Ticket { get; set; } = [];

    /// <summary>The browser and its system, as it says of itself.</summary>
    public string Device { get; init; } = "";

    public string Address { get; init; } = "";

    /// <summary>UTC.</summary>
    public DateTime At { get; init; }

    /// <summary>UTC, to some minutes.</summary>
    public DateTime SeenAt { get; set; }

    /// <summary>UTC; afterwards it is of no use.</summary>
    public DateTime Until { get; set; }
}
