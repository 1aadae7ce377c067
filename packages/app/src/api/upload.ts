import type { Picture } from '@fennip/contract';
import { say } from '../words/say.ts';
import { AnswerError, sentenceOf } from './http.ts';

/** Sends a file as it is and tells how far it has come. `fetch` cannot tell that. */
export function uploadPicture(
  jobId: string,
  place: number,
  file: File,
  progress: (share: number) => void,
): Promise<Picture> {
  return new Promise((resolve, reject) => {
    const request = new XMLHttpRequest();
    request.open('POST', `/api/jobs/${jobId}/pictures?name=${encodeURIComponent(file.name)}&place=${place}`);
    request.setRequestHeader('content-type', 'application/octet-stream');
    request.upload.onprogress = (event) => progress(event.total > 0 ? event.loaded / event.total : 0);
    request.onerror = () => reject(new AnswerError(0, say('notice.brokenTransfer')));
    request.onload = () => {
      if (request.status < 300) resolve(JSON.parse(request.responseText) as Picture);
      else reject(new AnswerError(request.status, sentenceOf(request.responseText)));
    };
    request.send(file);
  });
}
