namespace Jugaad.Desk.Kept;

/// <summary>
/// Opens a person's calendar at an address that nobody can guess; only its hash is kept, so that the books do not give
/// it away.
/// </summary>
public sealed class CalendarKey
{
    private CalendarKey() { }

    public CalendarKey(int personId, string tokenHash) => (PersonId, TokenHash) = (personId, tokenHash);

    public int Id { get; private set; }

    public int PersonId { get; private set; }

    public string TokenHash { get; private set; } = "";
}
