using System.Text.Json;
using Jugaad.Desk.Books;
using Jugaad.Desk.Outside;

namespace Jugaad.Outside;

/// <summary>Stands in for a gateway of text messages: keeps each message as a file beside the mails.</summary>
public sealed class MessageStandIn(BooksFile file) : IMessageGateway
{
    /// <summary>Numbers that end so are ones that a real gateway would not know.</summary>
    private const string Unknown = "0000";

    /// <inheritdoc/>
    public bool IsStandIn => true;

    /// <inheritdoc/>
    public async Task<string> CarryAsync(string key, string number, string text, CancellationToken stop)
    {
        var digits = string.Concat(number.Where(char.IsAsciiDigit));
        if (digits.EndsWith(Unknown, StringComparison.Ordinal))
            throw new CarrierException($"The number {number} is not in use.", CarrierFate.Refused);
        Directory.CreateDirectory(file.MailFolder);
        await File.WriteAllTextAsync(PlaceOf(key), JsonSerializer.Serialize(new { to = $"+{digits}", text }), stop);
        return "Kept by the stand-in.";
    }

    /// <summary>Where a message is kept.</summary>
    public string PlaceOf(string key) => Path.Combine(file.MailFolder, key + ".message.json");
}
