import { ArrayMaxSize, ArrayMinSize, IsArray, IsIn } from 'class-validator';
import { STARTER, type Starter } from './starter-words.ts';

/** Starter templates to add to the library; those that are there already stay as they are. */
export class AddStarters {
  @IsArray({ message: 'Give the templates as a list.' })
  @ArrayMinSize(1, { message: 'Choose at least one template.' })
  @ArrayMaxSize(50, { message: 'Choose at most 50 templates.' })
  @IsIn(STARTER, { each: true, message: 'Choose templates from the list.' })
  templates!: Starter[];
}
