import { z } from '../model/schema.ts';
import { type Reader, readers } from './readers.ts';

/** What a section of a report is for; a template puts sections in order by it. */
export const sectionRoles = ['summary', 'question', 'method', 'results', 'conclusion', 'other'] as const;
export type SectionRole = (typeof sectionRoles)[number];

export const templateSchema = z.object({
  name: z.string().trim().min(1).max(100),
  reader: z.enum(readers),
  /** Sections in the order in which their roles stand here; those of roles that are missing are left out. */
  order: z.array(z.enum(sectionRoles)).max(sectionRoles.length),
  /** What there is beside the sections. */
  contents: z.boolean(),
  figureList: z.boolean(),
  glossary: z.boolean(),
  provenance: z.boolean(),
  /** Whether sections and figures are numbered; figures always are where something refers to them. */
  numbered: z.boolean(),
  /** Whether a caption says where scales end, and what the run does not have. */
  scales: z.boolean(),
});

/** How the content of a report is told to some readers: in which words, how much of it, in which order. */
export type ReportTemplate = z.infer<typeof templateSchema>;

const template = (name: string, reader: Reader, more: Partial<ReportTemplate>): ReportTemplate => ({
  name,
  reader,
  order: [...sectionRoles],
  contents: true,
  figureList: true,
  glossary: false,
  provenance: true,
  numbered: true,
  scales: true,
  ...more,
});

/** Templates that ship, by their ids. */
export const shippedTemplates: Readonly<Record<string, ReportTemplate>> = {
  review: template('Engineering review', 'engineer', {
    order: ['summary', 'question', 'method', 'results', 'conclusion', 'other'],
  }),
  customer: template('For a customer', 'customer', {
    order: ['summary', 'results', 'conclusion', 'method', 'other'],
    figureList: false,
    scales: false,
  }),
  lay: template('For everybody', 'lay', {
    order: ['question', 'results', 'summary', 'conclusion'],
    contents: false,
    figureList: false,
    glossary: true,
    provenance: false,
    numbered: false,
    scales: false,
  }),
};
export const USUAL_TEMPLATE = 'review';
