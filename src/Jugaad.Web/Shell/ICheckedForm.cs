namespace Jugaad.Web.Shell;

/// <summary>What a script sends, of which parts may be missing whatever the types say.</summary>
internal interface ICheckedForm
{
    /// <summary>The first part without which nothing can be done; null where all are there.</summary>
    string? Missing();
}
