import { defineConfig } from 'drizzle-kit';

/** `npm run tables` writes the migration that leads to what `tables.ts` says now. */
export default defineConfig({
  dialect: 'postgresql',
  schema: './web/server/tables.ts',
  out: './web/server/migrations',
});
