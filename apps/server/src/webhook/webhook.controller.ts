import { Body, Controller, Delete, Get, HttpCode, Param, Patch, Post, Query } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import {
  AddWebhook,
  EditWebhook,
  type ChangeMade,
  type WebhookAdded,
  type WebhookDeliveries,
  type WebhookLine,
  type WebhookSaved,
} from '@crew/contract';
import { Answers } from '../platform/answers.ts';
import { OptionalChoice, OptionalId, PathId } from '../platform/query-pipes.ts';
import { Allow, Caller, type Who } from '../platform/rights.ts';
import { KeepWebhooks } from './keep-webhooks.ts';

@ApiTags('webhooks')
@Controller('webhooks')
@Allow('webhook.edit')
export class WebhookController {
  private readonly keeping: KeepWebhooks;
  constructor(keeping: KeepWebhooks) {
    this.keeping = keeping;
  }

  @Get()
  @Answers('WebhookLine', { isList: true })
  list(@Caller() who: Who): Promise<WebhookLine[]> {
    return this.keeping.list(who);
  }

  /** Answers the secret its calls are signed with; it is shown only now. */
  @Post()
  @Answers('WebhookAdded')
  add(@Caller() who: Who, @Body() input: AddWebhook): Promise<WebhookAdded> {
    return this.keeping.add(who, input);
  }

  /** The last calls of all webhooks or one, the newest first; `only=undeliverable` those that were given up. */
  @Get('deliveries')
  @Answers('WebhookDeliveries')
  deliveries(
    @Caller() who: Who,
    @Query('webhook', OptionalId) webhookId: string | undefined,
    @Query('only', new OptionalChoice(['undeliverable'] as const)) only: 'undeliverable' | undefined,
  ): Promise<WebhookDeliveries> {
    return this.keeping.deliveries(who, { webhookId, isUndeliverable: only !== undefined });
  }

  @Post('deliveries/:id/retry')
  @HttpCode(204)
  retry(@Caller() who: Who, @Param('id', PathId) id: string): Promise<void> {
    return this.keeping.retry(who, id);
  }

  /** What is left out stays. */
  @Patch(':id')
  @Answers('WebhookSaved')
  edit(@Caller() who: Who, @Param('id', PathId) id: string, @Body() input: EditWebhook): Promise<WebhookSaved> {
    return this.keeping.edit(who, id, input);
  }

  /** It gets no more calls; undoing brings it back with its secret. */
  @Delete(':id')
  @Answers('ChangeMade')
  async remove(@Caller() who: Who, @Param('id', PathId) id: string): Promise<ChangeMade> {
    return { changeId: await this.keeping.remove(who, id) };
  }
}
