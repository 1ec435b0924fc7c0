using BenchmarkDotNet.Running;
using Osierwand.Core.Bench;

BenchmarkRunner.Run<PlanAndAssess>(args: args);
BenchmarkRunner.Run<EndOfASheet>(args: args);
BenchmarkRunner.Run<PlainForms>(args: args);
BenchmarkRunner.Run<PlanVisits>(args: args);
