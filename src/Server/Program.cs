using Osierwand.Server.Hosting;

await OsierwandServer.RunAsync(args);
