import { Body, Controller, Get, Header, Put, StreamableFile } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { KeepLogo as Input, type AgencySettings } from '@crew/contract';
import { Answers } from '../platform/answers.ts';
import { requireFound } from '../platform/refusal.ts';
import { Allow, Caller, Open, type Who } from '../platform/rights.ts';
import { KeepLogo } from './keep-logo.ts';

@ApiTags('agency')
@Controller()
export class LogoController {
  private readonly keeping: KeepLogo;
  constructor(keeping: KeepLogo) {
    this.keeping = keeping;
  }

  /** The logo as a picture, for everybody. Its address in `logo` of the settings changes with it, so it may be kept. */
  @Get('agency/logo')
  @Open()
  @Header('Cache-Control', 'public, max-age=31536000, immutable')
  async read(): Promise<StreamableFile> {
    const { type, image } = requireFound(await this.keeping.read(), 'logo');
    return new StreamableFile(image, { type, length: image.length });
  }

  /** Replaces the logo by a PNG, JPEG or WebP picture of up to 256 KB, in base64; null removes it. */
  @Put('settings/logo')
  @Answers('AgencySettings')
  @Allow('agency.edit-settings')
  set(@Caller() who: Who, @Body() input: Input): Promise<AgencySettings> {
    return this.keeping.set(who, input);
  }
}
