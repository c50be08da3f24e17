using System.Text.RegularExpressions;
using Amazon.Runtime;
using Amazon.S3;
using Amazon.S3.Model;
using Amazon.S3.Transfer;
using Jugaad.Desk.Keeping;
using Jugaad.Desk.Kept;
using Jugaad.Desk.Outside;

namespace Jugaad.Outside;

/// <summary>A bucket of an object store.</summary>
public sealed partial class StorePlace : IBackupPlace
{
    private readonly AmazonS3Client _client;
    private readonly string _bucket;

    public StorePlace(BackupSettings settings, string secret)
    {
        _bucket = settings.Path;
        _client = new AmazonS3Client(
            new BasicAWSCredentials(settings.User, secret),
            new AmazonS3Config
            {
                ServiceURL = settings.Host,
                ForcePathStyle = true,
                AuthenticationRegion = Region().Match(settings.Host) is { Success: true } named
                    ? named.Groups[1].Value
                    : "us-east-1",
                MaxErrorRetry = 2,
                Timeout = TimeSpan.FromMinutes(10),
                // Many stores know no checksums but the usual one.
                RequestChecksumCalculation = RequestChecksumCalculation.WHEN_REQUIRED,
                ResponseChecksumValidation = ResponseChecksumValidation.WHEN_REQUIRED,
            }
        );
    }

    public Task<IReadOnlyList<PlacedFile>> ListAsync(CancellationToken stop) =>
        SaidAsync(async () =>
        {
            var files = new List<PlacedFile>();
            var ask = new ListObjectsV2Request { BucketName = _bucket };
            ListObjectsV2Response page;
            do
            {
                page = await _client.ListObjectsV2Async(ask, stop);
                files.AddRange((page.S3Objects ?? []).Select(o => new PlacedFile(o.Key, o.Size ?? 0)));
                ask.ContinuationToken = page.NextContinuationToken;
            } while (page.IsTruncated == true);
            return (IReadOnlyList<PlacedFile>)files;
        });

    public Task PutAsync(string file, string name, CancellationToken stop) =>
        SaidAsync(async () =>
        {
            using var transfer = new TransferUtility(_client);
            await transfer.UploadAsync(file, _bucket, name, stop);
            return true;
        });

    public Task GetAsync(string name, string file, CancellationToken stop) =>
        SaidAsync(async () =>
        {
            using var transfer = new TransferUtility(_client);
            await transfer.DownloadAsync(file, _bucket, name, stop);
            return true;
        });

    public Task DeleteAsync(string name, CancellationToken stop) =>
        SaidAsync(() => _client.DeleteObjectAsync(_bucket, name, stop));

    public ValueTask DisposeAsync()
    {
        _client.Dispose();
        return ValueTask.CompletedTask;
    }

    private async Task<T> SaidAsync<T>(Func<Task<T>> work)
    {
        try
        {
            return await work();
        }
        catch (Exception cannot)
            when (cannot
                    is AmazonServiceException
                        or AmazonClientException
                        or HttpRequestException
                        or IOException
                        or TimeoutException
            )
        {
            throw new PlaceException($"The store, bucket {_bucket}: {cannot.Message}", cannot);
        }
    }

    /// <summary>Some addresses name the region for which requests are signed.</summary>
    [GeneratedRegex(@"\.([a-z]{2}-[a-z]+-\d)\.", RegexOptions.CultureInvariant)]
    private static partial Regex Region();
}

/// <summary>Opens the other place of whatever sort.</summary>
public sealed class OtherPlaces(ISecretKeeper secrets) : IOtherPlaces
{
    /// <inheritdoc/>
    public async Task<IBackupPlace> OpenAsync(BackupSettings settings, CancellationToken stop) =>
        settings.Other switch
        {
            OtherPlace.Folder => MountedFolder(settings.Path),
            OtherPlace.Sftp => await SftpPlace.OpenAsync(settings, secrets.Reveal(settings.ProtectedSecret), stop),
            OtherPlace.Store => new StorePlace(settings, secrets.Reveal(settings.ProtectedSecret)),
            _ => throw new PlaceException("No other place is set."),
        };

    /// <summary>A folder that is not there is a disk that is not mounted: making it would fill the wrong one.</summary>
    private static FolderPlace MountedFolder(string path) =>
        Directory.Exists(path)
            ? new FolderPlace(path)
            : throw new PlaceException($"{path} is not there. Is its disk mounted?");
}
