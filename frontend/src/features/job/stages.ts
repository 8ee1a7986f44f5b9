/** The order of work; a number key leads to each, none is locked. */
export const STAGES = [
  { path: 'intake', title: 'Intake' },
  { path: 'discharge', title: 'Discharge' },
  { path: 'found', title: 'As found' },
  { path: 'assess', title: 'Assess' },
  { path: 'replace', title: 'Replace' },
  { path: 'fit', title: 'Fit' },
  { path: 'power', title: 'Power up' },
  { path: 'handback', title: 'Hand back' },
  { path: 'record', title: 'Record' },
] as const

export const STAGE_PATHS: Record<string, string> = Object.fromEntries(STAGES.map((stage) => [stage.title, stage.path]))
