export async function bench(names: readonly string[]): Promise<number> {
  void names;
  return 0;
}
