/** An answer as our server gives it: JSON, with its mark. */
export const ours = (body: unknown, status = 200, headers: Record<string, string> = {}): Response =>
  new Response(JSON.stringify(body), {
    status,
    headers: { "Content-Type": "application/json", "Nailwright-Version": "1", ...headers },
  });
