/** A calendar file to be taken up by a calendar program. */
export const calendarReply = (text: string, name: string): Response =>
  new Response(text, {
    headers: {
      'Content-Type': 'text/calendar; charset=utf-8',
      'Content-Disposition': `attachment; filename="${name}.ics"`,
      'Cache-Control': 'no-store',
    },
  });
