/** Whether the server answers at all. */
export const GET = () => new Response(null, { status: 204 });
export const POST = GET;
