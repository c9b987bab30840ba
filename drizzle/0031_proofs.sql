ALTER TABLE "asks" DROP CONSTRAINT "asks_plan";--> statement-breakpoint
ALTER TABLE "asks" DROP CONSTRAINT "asks_whole";--> statement-breakpoint
ALTER TABLE "asks" ADD CONSTRAINT "asks_plan" CHECK (plan in ('sweep', 'study', 'proof', 'batch'));--> statement-breakpoint
ALTER TABLE "asks" ADD CONSTRAINT "asks_whole" CHECK ((plan in ('study', 'proof')) = (position is not null));