using BenchmarkDotNet.Running;
using Osierwand.Instruments.Bench;

BenchmarkRunner.Run<OneSolve>(args: args);
