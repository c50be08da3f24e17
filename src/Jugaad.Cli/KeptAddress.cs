using Jugaad.Desk.Books;
using Jugaad.Desk.Outside;
using Microsoft.EntityFrameworkCore;

namespace Jugaad.Cli;

/// <summary>The address that the books say the outside uses; else where the server listens unless it was told otherwise.</summary>
internal sealed class KeptAddress(BooksContext db) : ISiteAddress
{
    public string Address => db.MachineSettings.AsNoTracking().FirstOrDefault() is { OutsideAddress.Length: > 0 } settings ? settings.OutsideAddress : "http://127.0.0.1:5080";
}
