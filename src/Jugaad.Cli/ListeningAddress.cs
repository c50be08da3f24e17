using Jugaad.Desk.Books;
using Jugaad.Desk.Outside;

namespace Jugaad.Cli;

/// <summary>
/// Where the server that has these books listens; where none runs, where one does unless it is told otherwise.
/// </summary>
internal sealed class ListeningAddress(BooksFile file) : ISiteAddress
{
    public string Address => BooksLock.AddressOf(file) ?? "http://127.0.0.1:5080";
}
