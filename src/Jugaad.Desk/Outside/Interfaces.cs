using Jugaad.Core.Layouts;
using Jugaad.Desk.Kept;

namespace Jugaad.Desk.Outside;

/// <summary>The business's pictures as kept; null where there is none.</summary>
public sealed record PaperPictures(byte[]? Logo, byte[]? Signature)
{
    /// <summary>Null where the business has none of that key.</summary>
    public byte[]? Of(string picture) =>
        picture switch
        {
            PaperPicture.Logo => Logo,
            PaperPicture.Signature => Signature,
            _ => null,
        };
}

/// <summary>Where this installation is reached, unless the settings say otherwise.</summary>
public interface ISiteAddress
{
    /// <summary>Without a slash at its end.</summary>
    string Address { get; }
}

/// <summary>Makes papers: measures text for the composer and paints what it composed.</summary>
public interface IPaperPrinter
{
    ITextMeasure Measure { get; }

    /// <param name="papers">One after the other in one file; the first one's title is the file's.</param>
    byte[] Pdf(IReadOnlyList<DisplayList> papers, PaperPictures pictures, DateOnly date, string author);

    /// <param name="addressOf">Where one of the business's pictures is; null where there is none.</param>
    /// <param name="pieces">Whether the marks of each piece of the layout stand in a group that says which.</param>
    /// <param name="anchors">Whether each piece, and each line of the document, can be led to: it has the id
    /// <see cref="Core.Layouts.PaperAnchor"/> gives.</param>
    IReadOnlyList<string> Svg(
        DisplayList paper,
        Func<string, string?> addressOf,
        bool pieces = false,
        bool anchors = false
    );

    /// <exception cref="Core.RefusalException">Where a file is no typeface that papers can be set in, or may not be put
    /// into files.</exception>
    void CheckTypeface(byte[] file, string field);
}

/// <summary>A mail as it is handed to a carrier.</summary>
/// <param name="Date">When it was sent, by the business's calendar.</param>
public sealed record OutgoingMail(
    string Key,
    DateTimeOffset Date,
    string FromName,
    string FromAddress,
    string To,
    string Subject,
    string Body,
    IReadOnlyList<(string Name, byte[] Content)> Attachments
);

/// <summary>Carries mail out of the house.</summary>
public interface IMailCarrier
{
    /// <summary>Whether it only plays a carrier: nothing that it takes leaves the house.</summary>
    bool IsStandIn(MailSettings settings);

    /// <summary>Hands a mail over.</summary>
    /// <returns>What the other side said once it had taken it over.</returns>
    /// <exception cref="CarrierException">When it has not, or when nobody knows.</exception>
    Task<string> CarryAsync(OutgoingMail mail, MailSettings settings, CancellationToken stop);
}

/// <summary>Carries short messages to telephones.</summary>
public interface IMessageGateway
{
    /// <inheritdoc cref="IMailCarrier.IsStandIn"/>
    bool IsStandIn { get; }

    /// <inheritdoc cref="IMailCarrier.CarryAsync"/>
    /// <param name="key">The same on every try.</param>
    Task<string> CarryAsync(string key, string number, string text, CancellationToken stop);
}

/// <summary>A mail as the stand-in kept it, and as its reader would see it.</summary>
public sealed record KeptMail(
    string From,
    string To,
    string Subject,
    DateTimeOffset Date,
    string Text,
    IReadOnlyList<(string Name, byte[] Content)> Attachments
);

/// <summary>Shows what the mail stand-in was given.</summary>
public interface IKeptMails
{
    /// <summary>Null where no mail with that key was kept.</summary>
    KeptMail? Find(string key);
}

/// <summary>Keeps passwords unreadable in the books file.</summary>
public interface ISecretKeeper
{
    string Protect(string secret);

    string Reveal(string kept);
}

/// <summary>Checks a picture and encodes it anew, so that nothing else is kept with it.</summary>
public interface IPictureCleaner
{
    /// <returns>
    /// A PNG of at most 1200 pixels a side; 2400 where it is a page of a PDF. A drawing (SVG) stays one, as
    /// <see cref="PictureType.OfKept"/> tells.
    /// </returns>
    /// <exception cref="Core.RefusalException">When it is no picture that we read, or too large.</exception>
    byte[] Clean(byte[] upload, string field);
}

/// <summary>Ready sets of taxes: those that ship, and their form as a file.</summary>
public interface ITaxKits
{
    IReadOnlyList<(string Key, Core.Taxes.TaxKit Kit)> All { get; }

    /// <returns>Null where none of that key ships.</returns>
    Core.Taxes.TaxKit? Find(string key);

    /// <exception cref="Core.RefusalException">With where it is no kit.</exception>
    Core.Taxes.TaxKit Read(byte[] json);

    byte[] Write(Core.Taxes.TaxKit kit);

    /// <summary>The boxes of a return.</summary>
    /// <exception cref="Core.RefusalException">With where they are none.</exception>
    IReadOnlyList<Core.Taxes.ReturnBox> ReadBoxes(string json);

    string WriteBoxes(IReadOnlyList<Core.Taxes.ReturnBox> boxes);
}

/// <summary>A business as a register knows it.</summary>
/// <param name="RiskGrade">A (best) to E; empty where the register gives none.</param>
public sealed record RegisterEntry(
    string Name,
    string RegistrationNumber,
    string TaxNumber,
    Core.Trade.Address Address,
    string RiskGrade
);

/// <summary>A register of businesses that can be asked.</summary>
public interface IBusinessRegister
{
    /// <summary>Whether it only plays a register, of made-up businesses.</summary>
    bool IsStandIn { get; }

    /// <summary>What fits a part of a name, or a registration or tax number, the likeliest first; at most 10.</summary>
    /// <param name="country">Two letters of ISO 3166-1; empty for all.</param>
    Task<IReadOnlyList<RegisterEntry>> FindAsync(string text, string country, CancellationToken stop);
}
