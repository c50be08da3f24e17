using Jugaad.Desk.Books;
using Jugaad.Desk.Outside;

namespace Jugaad.Desk.Keeping;

/// <summary>A folder of this machine, or of a disk that is mounted there.</summary>
public sealed class FolderPlace(string folder) : IBackupPlace
{
    public Task<IReadOnlyList<PlacedFile>> ListAsync(CancellationToken stop) =>
        SaidAsync(() =>
            Task.FromResult<IReadOnlyList<PlacedFile>>(
                Directory.Exists(folder)
                    ? new DirectoryInfo(folder).GetFiles().Select(f => new PlacedFile(f.Name, f.Length)).ToList()
                    : []
            )
        );

    public Task PutAsync(string file, string name, CancellationToken stop) =>
        SaidAsync(async () =>
        {
            if (!Directory.Exists(folder))
            {
                Directory.CreateDirectory(folder);
                OwnersOnly.Folder(folder);
            }

            var part = Path.Combine(folder, $"{name}.part");
            try
            {
                await CopyAsync(file, part, stop);
                Durable.Replace(part, Path.Combine(folder, name));
            }
            catch
            {
                File.Delete(part);
                throw;
            }

            return true;
        });

    public Task GetAsync(string name, string file, CancellationToken stop) =>
        SaidAsync(async () =>
        {
            await CopyAsync(Path.Combine(folder, name), file, stop);
            return true;
        });

    public Task DeleteAsync(string name, CancellationToken stop) =>
        SaidAsync(() =>
        {
            File.Delete(Path.Combine(folder, name));
            return Task.FromResult(true);
        });

    public ValueTask DisposeAsync() => ValueTask.CompletedTask;

    private static async Task CopyAsync(string from, string to, CancellationToken stop)
    {
        await using var source = File.OpenRead(from);
        await using var target = File.Create(to);
        OwnersOnly.File(to);
        await source.CopyToAsync(target, stop);
    }

    private async Task<T> SaidAsync<T>(Func<Task<T>> work)
    {
        try
        {
            return await work();
        }
        catch (Exception cannot) when (cannot is IOException or UnauthorizedAccessException)
        {
            throw new PlaceException(
                Directory.Exists(folder) && DiskRoom.IsFull(folder)
                    ? $"The disk of {folder} is full. Make room there."
                    : $"{folder}: {cannot.Message}",
                cannot
            );
        }
    }
}
