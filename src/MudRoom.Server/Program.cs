using MudRoom.Server.Hosting;

return await CommandLine.Run(args);
