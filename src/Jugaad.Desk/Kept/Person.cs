using Microsoft.AspNetCore.Identity;

namespace Jugaad.Desk.Kept;

/// <summary>Someone who works with the books and signs in.</summary>
public sealed class Person : IdentityUser<int>
{
    public string FullName { get; set; } = "";

    public PersonRole Role { get; set; }

    /// <summary>Shut out: cannot sign in any more.</summary>
    public bool Closed { get; set; }

    /// <summary>Percent of what they sell that they are given.</summary>
    public decimal Commission { get; set; }

    /// <summary>
    /// The last 30 seconds, counted since 1970, whose code of the second step was used: none before it is good any
    /// more.
    /// </summary>
    public long LastCodeStep { get; set; }
}
