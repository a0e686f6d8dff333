import { changing } from '../../reply';

/** Whether the server answers a signed-in person: resolves the session and reads the body, and does nothing with them. */
export async function POST(request: Request) {
  const asked = await changing(request);
  return asked.ok ? Response.json({ name: asked.context.actor.name }) : asked.response;
}
