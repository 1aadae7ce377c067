import { RecipeError } from '@fennip/core/errors';
import type { AssemblyDocument } from '../assembly/assemblyDocument.ts';
import { AssemblyDocumentSchema } from '../assembly/assemblyDocument.ts';
import { checkerOf } from './checker.ts';

const checkShape = checkerOf(AssemblyDocumentSchema);

/** Takes anything for an assembly's document. @throws RecipeError naming its first mistake by place and reason */
export function checkAssembly(value: unknown): AssemblyDocument {
  const document = checkShape(value);
  const { scans, pieces, joins } = document;
  pieces.forEach(({ scan }, k) => {
    if (scan >= scans.length) throw new RecipeError(`pieces/${k}/scan`, `there is no scan ${scan}`);
  });
  joins.forEach(({ pieces: pair }, k) => {
    for (const piece of pair)
      if (piece >= pieces.length) throw new RecipeError(`joins/${k}/pieces`, `there is no piece ${piece}`);
  });
  return document;
}
