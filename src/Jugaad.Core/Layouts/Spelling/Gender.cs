namespace Jugaad.Core.Layouts.Spelling;

/// <summary>What a number counts, by which some languages bend it.</summary>
public enum Gender
{
    Masculine,
    Feminine,
    Neuter,
}
