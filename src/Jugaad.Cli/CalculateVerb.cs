using System.CommandLine;
using Jugaad.Core;
using Jugaad.Formats.Calculation;

namespace Jugaad.Cli;

/// <summary><c>calculate FILE|-</c>: totals of documents given as JSON.</summary>
internal static class CalculateVerb
{
    internal static Command Make()
    {
        var file = new Argument<string>("FILE")
        {
            Description = "A JSON file with one document or an array of them; - reads standard input.",
        };
        var verb = new Command("calculate", "Compute the totals of documents: JSON in, JSON out.") { file };
        verb.SetAction(parsed => Run(parsed.GetRequiredValue(file)));
        return verb;
    }

    private static int Run(string file)
    {
        byte[] input;
        try
        {
            input = Read(file);
        }
        catch (Exception unread) when (unread is IOException or UnauthorizedAccessException)
        {
            Console.Error.WriteLine(
                $"{file} cannot be read: {unread.Message} Give a file that is there, or - for standard input."
            );
            return 2;
        }

        using var output = new BufferedStream(Console.OpenStandardOutput(), 1 << 16);
        var refused = false;
        try
        {
            refused = CalculationJson.Run(input, output);
        }
        catch (RefusalException whole)
        {
            CalculationJson.WriteRefusal(whole, output);
            refused = true;
        }

        output.Write("\n"u8);
        return refused ? 2 : 0;
    }

    private static byte[] Read(string file)
    {
        if (file != "-")
            return File.ReadAllBytes(file);
        using var input = Console.OpenStandardInput();
        using var copy = new MemoryStream();
        input.CopyTo(copy);
        return copy.ToArray();
    }
}
