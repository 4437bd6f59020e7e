// Packages of many small files that are built into our programs: a thousand files take a second to find and read at each start.
export const bundledPackages = ['mathjs', 'culori', 'drizzle-orm', 'zod', 'mediabunny'];
