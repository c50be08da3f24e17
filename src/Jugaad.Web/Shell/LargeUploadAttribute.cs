namespace Jugaad.Web.Shell;

/// <summary>
/// Says of a page that its forms bring larger files than others may; <see cref="ReadForms"/> heeds it.
/// </summary>
/// <param name="most">Bytes of the whole form.</param>
[AttributeUsage(AttributeTargets.Class)]
public sealed class LargeUploadAttribute(long most) : Attribute
{
    public long Most { get; } = most;
}
