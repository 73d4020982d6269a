import { job, type Area } from '../platform/area.ts';
import { FileStore } from './file-store.ts';
import { FileController } from './file.controller.ts';
import { StoredFile, TaskFile, TemplateTaskFile } from './file.entity.ts';
import { KeepFiles } from './keep-files.ts';
import { SweepFilesJob } from './sweep-files.job.ts';

export const file: Area = {
  controllers: [FileController],
  providers: [FileStore, KeepFiles, SweepFilesJob],
  entities: [StoredFile, TaskFile, TemplateTaskFile],
  jobs: [job({ name: 'sweep-files', by: SweepFilesJob, run: (handler) => handler.run(), at: '17 3 * * *' })],
};
