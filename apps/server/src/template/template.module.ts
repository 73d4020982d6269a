import type { Area } from '../platform/area.ts';
import { BringChanges } from './bring-changes.ts';
import { CompareVersions } from './compare-versions.ts';
import { CreateTemplate } from './create-template.ts';
import { DryRunTemplate } from './dry-run.ts';
import { ExchangeTemplate } from './exchange-template.ts';
import { GrowTemplate } from './grow-template.ts';
import { KeepTemplate } from './keep-template.ts';
import { OriginController } from './origin.controller.ts';
import { ReadNews } from './read-news.ts';
import { ReadSource } from './read-source.ts';
import { SaveBack } from './save-back.ts';
import { AddFromLibrary } from './add-from-library.ts';
import { TemplateController } from './template.controller.ts';
import {
  Template,
  TemplateCheck,
  TemplateDependency,
  TemplatePhase,
  TemplateStep,
  TemplateTask,
  TemplateVersion,
  TemplateWay,
} from './template.entity.ts';
import { TemplateRepository } from './template.repository.ts';

export const template: Area = {
  controllers: [TemplateController, OriginController],
  providers: [
    CreateTemplate,
    KeepTemplate,
    CompareVersions,
    ExchangeTemplate,
    SaveBack,
    BringChanges,
    AddFromLibrary,
    DryRunTemplate,
    GrowTemplate,
    ReadNews,
    ReadSource,
    TemplateRepository,
  ],
  entities: [Template, TemplatePhase, TemplateTask, TemplateStep, TemplateDependency, TemplateCheck, TemplateWay, TemplateVersion],
};
