import { Controller, Get, Param, Post, StreamableFile, UploadedFile, UseInterceptors } from '@nestjs/common';
import { FileInterceptor } from '@nestjs/platform-express';
import { ApiBody, ApiConsumes, ApiTags } from '@nestjs/swagger';
import { MOST_FILE_BYTES, type KeptFile } from '@crew/contract';
import { PathId } from '../platform/query-pipes.ts';
import { Answers } from '../platform/answers.ts';
import { Refusal } from '../platform/refusal.ts';
import { Allow, Caller, type Who } from '../platform/rights.ts';
import { KeepFiles } from './keep-files.ts';

/** What the reader of multipart bodies leaves of a file on the disk. */
interface Received {
  readonly path: string;
  readonly originalname: string;
  readonly mimetype: string;
}

@ApiTags('files')
@Controller('files')
export class FileController {
  private readonly files: KeepFiles;
  constructor(files: KeepFiles) {
    this.files = files;
  }

  /** Sends a file as multipart/form-data, part `file`. Its id then goes to a task or a template; alone it is gone after a day. */
  @Post()
  @Answers('KeptFile')
  @Allow('file.add')
  @ApiConsumes('multipart/form-data')
  @ApiBody({ schema: { type: 'object', required: ['file'], properties: { file: { type: 'string', format: 'binary' } } } })
  @UseInterceptors(FileInterceptor('file', { limits: { fileSize: MOST_FILE_BYTES, files: 1, fields: 4 }, defParamCharset: 'utf8' }))
  async send(@Caller() who: Who, @UploadedFile() file: Received | undefined): Promise<KeptFile> {
    if (file === undefined) throw new Refusal('invalid-input', 'There is no file in the request. Choose one.', { field: 'file' });
    return this.files.take(who, { name: file.originalname, type: file.mimetype, from: { path: file.path } });
  }

  /** The content of a file, always as a download: nothing that was uploaded is opened as a page of ours. */
  @Get(':id')
  @Allow('file.read')
  async read(@Caller() who: Who, @Param('id', PathId) id: string): Promise<StreamableFile> {
    const { name, bytes, content } = await this.files.open(who, id);
    return new StreamableFile(content, {
      type: 'application/octet-stream',
      length: bytes,
      disposition: `attachment; filename="${name.replace(/[^\x20-\x7e]|["\\%]/g, '_')}"; filename*=UTF-8''${encodeURIComponent(name)}`,
    });
  }
}
