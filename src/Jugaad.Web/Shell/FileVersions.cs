using System.Collections.Concurrent;
using System.Security.Cryptography;
using Microsoft.AspNetCore.Mvc.ViewFeatures;
using Microsoft.AspNetCore.WebUtilities;

namespace Jugaad.Web.Shell;

/// <summary>
/// Puts the hash of a script's or style's content into its address. A file is read once and again when it was written
/// anew; nothing watches it, for watchers are few on a machine.
/// </summary>
internal sealed class FileVersions(IWebHostEnvironment environment) : IFileVersionProvider
{
    private readonly ConcurrentDictionary<(string Path, DateTimeOffset Written), string> _known = [];

    /// <inheritdoc/>
    /// <returns>The path as it is, where there is no such file.</returns>
    public string AddFileVersionToPath(PathString requestPathBase, string path)
    {
        var file = environment.WebRootFileProvider.GetFileInfo(path);
        return file.Exists
            ? QueryHelpers.AddQueryString(
                path,
                "v",
                _known.GetOrAdd(
                    (path, file.LastModified),
                    _ =>
                    {
                        using var content = file.CreateReadStream();
                        return WebEncoders.Base64UrlEncode(SHA256.HashData(content));
                    }
                )
            )
            : path;
    }
}
