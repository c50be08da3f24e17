namespace Jugaad.Desk.Post;

internal static class PostRoom
{
    internal static IReadOnlyList<Type> Desks { get; } =
    [typeof(MailComposing), typeof(PostTray), typeof(PostCarrying), typeof(Connections)];
}
