import contract from '@viaticum/contract/german/contract.json';
import core from '@viaticum/contract/german/core.json';
import print from '@viaticum/contract/german/print.json';
import server from '@viaticum/contract/german/server.json';
import web from '@viaticum/contract/german/web.json';

/** All that is said in German. A chunk of its own: who reads English never fetches it. */
export const german: Record<string, string> = { ...contract, ...core, ...print, ...server, ...web };
