import { SHIPPED_FILES } from '../../core/shipped/files';

export const dynamic = 'force-static';

/** The sheets that ship and the demo job, for the page. */
export const GET = (): Response => Response.json(SHIPPED_FILES);
