import type { AnswerError } from '../api/http.ts';

/** True if the same question may be answered a little later: the server or its database is away. */
export const isPassing = ({ status }: AnswerError): boolean => status === 0 || status >= 500;
