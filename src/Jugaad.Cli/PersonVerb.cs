using System.CommandLine;
using Jugaad.Desk.Machine;
using Jugaad.Desk.People;
using Microsoft.Extensions.DependencyInjection;

namespace Jugaad.Cli;

/// <summary><c>person --data DIR reset ADDRESS</c>: a way back in for somebody who forgot their password.</summary>
internal static class PersonVerb
{
    internal static Command Make()
    {
        var data = BooksVerbs.Data();
        data.Recursive = true;
        var address = new Argument<string>("ADDRESS")
        {
            Description = "The mail address with which the person signs in.",
        };
        var reset = new Command(
            "reset",
            "Print a link with which the person chooses a new password; it is good for one hour."
        )
        {
            address,
        };
        reset.SetAction(
            (parsed, stop) =>
                BooksVerbs.WithAsync(
                    parsed.GetRequiredValue(data),
                    async services =>
                    {
                        var token = await services
                            .GetRequiredService<ForgottenPasswords>()
                            .MakeAsync(parsed.GetRequiredValue(address), stop);
                        Console.WriteLine(
                            $"{await services.GetRequiredService<OutsideAddress>().NowAsync(stop)}{ForgottenPasswords.PathOf(token)}"
                        );
                        Console.Error.WriteLine(
                            "The link is good for one hour and for one use. Every session of that person ends with it."
                        );
                        return 0;
                    }
                )
        );
        return new Command("person", "Look after the people who sign in.") { data, reset };
    }
}
