namespace Jugaad.Desk.Post;

/// <summary>Makes the files of a report that goes along with a mail.</summary>
public interface IPostReports
{
    /// <param name="wish">Which report, and of which days, as the post item has it.</param>
    Task<IReadOnlyList<(string Name, byte[] Content)>> AttachmentsAsync(string wish, CancellationToken stop);
}
