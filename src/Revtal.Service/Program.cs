using Revtal.Service;

return await RevtalHost.RunAsync(args);
