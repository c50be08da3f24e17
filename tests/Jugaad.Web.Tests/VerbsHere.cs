using System.Reflection;
using System.Text;

namespace Jugaad.Web.Tests;

/// <summary>
/// A verb of the launcher in this process, which spares a long test the seconds that each new process takes to come
/// up. What is written to the bytes of standard output, such as a report, is not caught: that takes a process.
/// </summary>
internal static class VerbsHere
{
    private static readonly AsyncLocal<StringWriter?> Out = new();
    private static readonly AsyncLocal<StringWriter?> Error = new();
    private static readonly MethodInfo Main = Assembly.Load("Jugaad.Cli").EntryPoint!;

    static VerbsHere()
    {
        Console.SetOut(new OfCaller(Console.Out, Out));
        Console.SetError(new OfCaller(Console.Error, Error));
    }

    public static Task<(int Code, string Out, string Error)> RunAsync(params string[] words) =>
        Task.Run(() =>
        {
            (Out.Value, Error.Value) = (new StringWriter(), new StringWriter());
            var code = (int)Main.Invoke(null, [words])!;
            return (code, Out.Value.ToString(), Error.Value.ToString());
        });

    /// <summary>Writes to whoever called, so that tests beside one another do not hear each other.</summary>
    private sealed class OfCaller(TextWriter otherwise, AsyncLocal<StringWriter?> caller) : TextWriter
    {
        public override Encoding Encoding => otherwise.Encoding;

        public override void Write(char value)
        {
            var to = caller.Value ?? otherwise;
            lock (to)
                to.Write(value);
        }
    }
}
