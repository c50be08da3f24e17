using System.Net.Sockets;
using System.Text;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Outside;
using Renci.SshNet;
using Renci.SshNet.Common;

namespace Jugaad.Outside;

/// <summary>
/// A folder of another machine, reached by SSH (SFTP). The machine must be the one that was met first.
/// </summary>
public sealed class SftpPlace : IBackupPlace
{
    private static readonly TimeSpan Patience = TimeSpan.FromSeconds(30);
    private readonly SftpClient _client;
    private readonly string _folder;

    private SftpPlace(SftpClient client, string folder) => (_client, _folder) = (client, folder.TrimEnd('/'));

    /// <param name="settings">Its host key is noted here where none was yet.</param>
    /// <param name="secret">A password, or a private key in the form that SSH programs write.</param>
    /// <exception cref="PlaceException">When the machine cannot be reached, is another one, or does not let one
    /// in.</exception>
    public static async Task<SftpPlace> OpenAsync(BackupSettings settings, string secret, CancellationToken stop)
    {
        var shown = "";
        var client = new SftpClient(
            new ConnectionInfo(settings.Host, settings.Port, settings.User, Ways(settings.User, secret))
            {
                Timeout = Patience,
            }
        )
        {
            OperationTimeout = Patience,
        };
        client.HostKeyReceived += (_, key) =>
        {
            shown = $"SHA256:{key.FingerPrintSHA256}";
            key.CanTrust = settings.HostKey.Length == 0 || settings.HostKey == shown;
        };
        try
        {
            await client.ConnectAsync(stop);
        }
        catch (Exception cannot) when (cannot is SshException or SocketException or IOException or TimeoutException)
        {
            client.Dispose();
            if (settings.HostKey.Length > 0 && shown.Length > 0 && shown != settings.HostKey)
                throw new PlaceException(
                    $"{settings.Host} shows another key ({shown}) than when it was first reached ({settings.HostKey}). It may be another machine: nothing was sent. If it was set up anew, change its name or port, save, and change it back.",
                    cannot
                );
            throw new PlaceException(
                cannot is SshAuthenticationException
                    ? $"{settings.Host} does not let {settings.User} in. Check the user and the password or key."
                    : $"{settings.Host} cannot be reached: {cannot.Message}",
                cannot
            );
        }

        settings.HostKey = shown;
        return new SftpPlace(client, settings.Path);
    }

    public Task<IReadOnlyList<PlacedFile>> ListAsync(CancellationToken stop) =>
        SaidAsync(async () =>
        {
            var files = new List<PlacedFile>();
            await foreach (var file in _client.ListDirectoryAsync(_folder, stop))
                if (file.IsRegularFile)
                    files.Add(new PlacedFile(file.Name, file.Length));
            return (IReadOnlyList<PlacedFile>)files;
        });

    public Task PutAsync(string file, string name, CancellationToken stop) =>
        SaidAsync(async () =>
        {
            var (part, whole) = ($"{_folder}/{name}.part", $"{_folder}/{name}");
            await using (var content = File.OpenRead(file))
                await Task.Run(() => _client.UploadFile(content, part, canOverride: true), stop);
            _client.ChangePermissions(part, 600);
            _client.RenameFile(part, whole, isPosix: true);
            return true;
        });

    public Task GetAsync(string name, string file, CancellationToken stop) =>
        SaidAsync(async () =>
        {
            await using var content = File.Create(file);
            await Task.Run(() => _client.DownloadFile($"{_folder}/{name}", content), stop);
            return true;
        });

    public Task DeleteAsync(string name, CancellationToken stop) =>
        SaidAsync(async () =>
        {
            await _client.DeleteFileAsync($"{_folder}/{name}", stop);
            return true;
        });

    public ValueTask DisposeAsync()
    {
        _client.Dispose();
        return ValueTask.CompletedTask;
    }

    private static AuthenticationMethod[] Ways(string user, string secret)
    {
        if (!secret.TrimStart().StartsWith("-----BEGIN", StringComparison.Ordinal))
            return [new PasswordAuthenticationMethod(user, secret)];
        try
        {
            return
            [
                new PrivateKeyAuthenticationMethod(
                    user,
                    new PrivateKeyFile(new MemoryStream(Encoding.UTF8.GetBytes(secret.ReplaceLineEndings("\n"))))
                ),
            ];
        }
        catch (SshException wrong)
        {
            throw new PlaceException($"The private key cannot be read: {wrong.Message}", wrong);
        }
    }

    private async Task<T> SaidAsync<T>(Func<Task<T>> work)
    {
        try
        {
            return await work();
        }
        catch (SftpPathNotFoundException none)
        {
            throw new PlaceException($"There is no folder {_folder} on the other machine. Make it there.", none);
        }
        catch (Exception cannot)
            when (cannot
                    is SshException
                        or SocketException
                        or IOException
                        or TimeoutException
                        or ObjectDisposedException
            )
        {
            throw new PlaceException($"The other machine: {cannot.Message}", cannot);
        }
    }
}
