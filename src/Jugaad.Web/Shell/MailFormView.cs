using Jugaad.Desk.Post;

namespace Jugaad.Web.Shell;

/// <summary>
/// What the form of a mail shows: the mail as composed, what its button says, and the papers that go along.
/// </summary>
public sealed record MailFormView(MailToSend Mail, string Button, IReadOnlyList<(int Id, string Title)> Papers);
