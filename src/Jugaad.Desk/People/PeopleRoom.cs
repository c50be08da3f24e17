namespace Jugaad.Desk.People;

/// <summary>Who may come in, and by what: passwords, second steps, keys, invitations.</summary>
internal static class PeopleRoom
{
    internal static IReadOnlyList<Type> Desks { get; } =
    [
        typeof(PeopleDesk),
        typeof(OwnSignIn),
        typeof(ForgottenPasswords),
        typeof(SigningIn),
        typeof(Passkeys),
        typeof(CalendarKeys),
    ];
}
