namespace Jugaad.Desk.Kept;

/// <summary>The business's own words for a kind of mail in a language, in place of those that ship.</summary>
public sealed class MailWords
{
    private MailWords() { }

    public MailWords(MailText text, string language) => (Text, Language) = (text, language);

    public int Id { get; private set; }

    public MailText Text { get; private set; }

    /// <summary>A language's two letters; empty for all that have no words of their own.</summary>
    public string Language { get; private set; } = "";

    public string Subject { get; private set; } = "";

    public string Body { get; private set; } = "";

    public void Write(string subject, string body) =>
        (Subject, Body) = (subject.Trim(), body.Trim().ReplaceLineEndings("\n"));
}
