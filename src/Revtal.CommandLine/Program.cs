using Revtal.CommandLine;

return await Cli.RunAsync(args);
