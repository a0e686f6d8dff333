ALTER TABLE `sitting_note` ADD `settled_at` integer;--> statement-breakpoint
ALTER TABLE `sitting_note` ADD `settled_by` text;--> statement-breakpoint
CREATE INDEX `response_aside_open` ON `response_aside` (`slot_id`) WHERE decision is null;--> statement-breakpoint
UPDATE `sitting_note` SET `settled_at` = `at`, `settled_by` = `by` WHERE `kind` = 'incident';
