import type { CallHandler, ExecutionContext, NestInterceptor } from '@nestjs/common';
import { TOPICS_HEADER, topicsText } from '@crew/contract';
import type { Response } from 'express';
import { tap, type Observable } from 'rxjs';
import { touchedByRequest } from './request-context.ts';

/** Says in the answer to a change what it has touched, so that whoever made it reads just that anew. */
export class SayTopics implements NestInterceptor {
  intercept(context: ExecutionContext, next: CallHandler): Observable<unknown> {
    const response = context.switchToHttp().getResponse<Response>();
    return next.handle().pipe(
      tap(() => {
        const topics = touchedByRequest();
        // Lines of a long answer are on their way already.
        if (topics.length > 0 && !response.headersSent) response.setHeader(TOPICS_HEADER, topicsText(topics));
      }),
    );
  }
}
