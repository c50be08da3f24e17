namespace Jugaad.Desk.People;

internal static class PeopleRoom
{
    internal static IReadOnlyList<Type> Desks { get; } =
    [typeof(PeopleDesk), typeof(OwnSignIn), typeof(ForgottenPasswords), typeof(SigningIn), typeof(Passkeys)];
}
