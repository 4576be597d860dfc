import * as z from 'zod';

/** What a page should know of the session that it is used in. */
export const sessionSchema = z.object({ asksForToken: z.boolean() });
export type Session = z.infer<typeof sessionSchema>;

/** Whose session is to end: that of the browser that asks, or everybody's. */
export const signOutSchema = z.object({ everywhere: z.boolean() });
export type SignOut = z.infer<typeof signOutSchema>;
