using System.CommandLine;
using Jugaad.Cli;

var root = new RootCommand("Jugaad: quotes, invoices, receipts and reminders for a small business.");
root.Add(CalculateVerb.Make());
root.Add(CheckVerb.Make());
root.Add(ImportVerb.Make());
root.Add(ExportVerb.Make());
root.Add(ReportVerb.Make());
root.Add(PaperVerb.Make());
root.Add(LayoutVerb.Make());
root.Add(EInvoiceVerb.Make());
root.Add(BackupVerb.Make());
root.Add(RestoreVerb.Make());
root.Add(PersonVerb.Make());
root.Add(MachineVerb.Make());

var parsed = root.Parse(args);
if (parsed.Errors.Count > 0)
{
    foreach (var error in parsed.Errors)
        Console.Error.WriteLine(error.Message);
    Console.Error.WriteLine(
        $"Try ./jugaad {Words(parsed.CommandResult)} --help".Replace("  ", " ", StringComparison.Ordinal)
    );
    return 2;
}

return parsed.Invoke();

static string Words(System.CommandLine.Parsing.CommandResult command) =>
    command.Parent is System.CommandLine.Parsing.CommandResult above
        ? $"{Words(above)} {command.Command.Name}".Trim()
        : "";
