using Jugaad.Core;
using Jugaad.Core.Amounts;
using Jugaad.Core.Layouts;
using Jugaad.Core.Trade;

namespace Jugaad.Desk.Kept;

/// <summary>What is said in words of our own.</summary>
public enum WordingOf
{
    /// <summary>A word of papers; its key is that of <see cref="PaperWord"/>.</summary>
    Word,

    /// <summary>The note that a new document begins with; its key is the kind of document.</summary>
    Note,

    /// <summary>What stands at the foot of a paper; its key is the kind of document, or that of the usual one.</summary>
    Footer,

    /// <summary>What papers call an item; its key is the item's id.</summary>
    Item,

    /// <summary>What a tax code says on papers, such as why no tax is charged; its key is the code's id.</summary>
    TaxReason,
}

/// <summary>One thing that is said on papers in one language, in words of our own.</summary>
public sealed class Wording
{
    /// <summary>The key of the foot that papers have whose kind has none of its own.</summary>
    public const string Usual = "Usual";

    private Wording() => (Key, Language, Text) = ("", "", "");

    public Wording(WordingOf of, string key, string language, string text) =>
        (Of, Key, Language, Text) = (of, key, language, text);

    public int Id { get; private set; }

    public WordingOf Of { get; private set; }

    public string Key { get; private set; }

    /// <summary>ISO 639-1.</summary>
    public string Language { get; private set; }

    /// <summary>Never empty.</summary>
    public string Text { get; private set; }

    public void Write(string text) => Text = text;
}

/// <summary>A language that customers are written to in and whose words do not ship.</summary>
public sealed class OwnLanguage
{
    private OwnLanguage() => (Code, Name, DecimalMark, Dates) = ("", "", ".", "");

    /// <param name="decimalMark">A point or a comma.</param>
    /// <param name="dates">One of <see cref="DisplayFormat.DatePatterns"/>.</param>
    /// <exception cref="RefusalException">When it ships already, or a part of it cannot be.</exception>
    public OwnLanguage(string code, string name, string decimalMark, string dates)
    {
        var refusals = new Refusals();
        code = code.Trim().ToLowerInvariant();
        if (!Customer.IsLanguage(code))
            refusals.Add("code", "The code of a language is two letters, such as is for Icelandic.");
        else if (Customer.Languages.Any(l => l.Code == code))
            refusals.Add("code", "The words of this language ship already. Choose it above and change them.");
        Texts.Required(refusals, "languageName", name, 60, "Give the language a name.");
        if (Customer.Languages.Any(l => l.Name.Equals(name.Trim(), StringComparison.OrdinalIgnoreCase)))
            refusals.Add("languageName", "There is a language of this name already.");
        if (decimalMark is not ("." or ","))
            refusals.Add("decimalMark", "Figures have a point or a comma.");
        if (!DisplayFormat.DatePatterns.Contains(dates))
            refusals.Add("dates", "Choose how dates are written.");
        refusals.ThrowIfAny();
        (Code, Name, DecimalMark, Dates) = (code, name.Trim(), decimalMark, dates);
    }

    public int Id { get; private set; }

    public string Code { get; private set; }

    public string Name { get; private set; }

    public string DecimalMark { get; private set; }

    public string Dates { get; private set; }

    public DisplayFormat Format => new(DecimalMark[0], Dates);
}

/// <summary>The words of papers as documents were issued with them.</summary>
public sealed class KeptWords
{
    private KeptWords() => (Text, Hash) = ("", "");

    public KeptWords(string text) => (Text, Hash) = (text, LayoutState.HashOf(text));

    public int Id { get; private set; }

    /// <summary>As <see cref="PaperWords.Write"/> writes them.</summary>
    public string Text { get; private set; }

    /// <summary>SHA-256 of the text as UTF-8, in hexadecimal.</summary>
    public string Hash { get; private set; }
}
