/** The server has looked at what was sent and will not take it, however often it is sent. */
const REFUSALS = [400, 404, 413, 422];

/** Why the server refuses for good, as far as it says; null where another try may help. */
export async function refusalOf(answer: Response): Promise<string | null> {
  if (!REFUSALS.includes(answer.status)) return null;
  const said = (await answer.json().catch(() => null)) as { detail?: unknown } | null;
  return typeof said?.detail === 'string' ? said.detail : '';
}
