import highsLoader from 'highs';

type Solver = Awaited<ReturnType<typeof highsLoader>>;
let solverOnce: Promise<Solver> | undefined;

/** The same, or null where nothing satisfies the program. */
export async function solveIfPossible(program: string): Promise<((name: string) => number) | null> {
  const solver = await (solverOnce ??= highsLoader());
  const { Status } = solver.solve(program, { mip_rel_gap: 0, mip_abs_gap: 0 });
  return Status === 'Infeasible' ? null : solve(program);
}

/** Solves a program in LP format with HiGHS, to the optimum itself; gives the value of every variable. Throws where there is none. */
export async function solve(program: string): Promise<(name: string) => number> {
  const solver = await (solverOnce ??= highsLoader());
  // Without a gap: the default stops short of the optimum by a ten-thousandth.
  const solution = solver.solve(program, { mip_rel_gap: 0, mip_abs_gap: 0 });
  if (solution.Status !== 'Optimal') throw new Error(`the program has no optimum: ${solution.Status}`);
  return (name) => (solution.Columns[name] as { Primal: number } | undefined)?.Primal ?? 0;
}
