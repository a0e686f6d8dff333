CREATE TABLE `made_out_sheet` (
	`layout_id` text NOT NULL,
	`copy` integer NOT NULL,
	`user_id` text NOT NULL,
	`number` integer NOT NULL,
	PRIMARY KEY(`layout_id`, `copy`),
	FOREIGN KEY (`layout_id`) REFERENCES `sheet_layout`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`user_id`) REFERENCES `user`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE TABLE `sheet_layout` (
	`id` text PRIMARY KEY NOT NULL,
	`sitting_id` text NOT NULL,
	`plan` text NOT NULL,
	`rows` text NOT NULL,
	`copies` integer NOT NULL,
	`created_at` integer NOT NULL,
	`created_by` text NOT NULL,
	FOREIGN KEY (`sitting_id`) REFERENCES `sitting`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `sheet_layout_sitting` ON `sheet_layout` (`sitting_id`);--> statement-breakpoint
CREATE TABLE `sheet_page` (
	`id` text PRIMARY KEY NOT NULL,
	`reading_id` text NOT NULL,
	`position` integer NOT NULL,
	`source` text NOT NULL,
	`problem` text,
	`code` text,
	`rows` text NOT NULL,
	`settled` text NOT NULL,
	`named` text,
	`left_out` integer DEFAULT false NOT NULL,
	`picture` text,
	`attempt_id` text,
	FOREIGN KEY (`reading_id`) REFERENCES `sheet_reading`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`named`) REFERENCES `user`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`attempt_id`) REFERENCES `attempt`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE UNIQUE INDEX `sheet_page_position` ON `sheet_page` (`reading_id`,`position`);--> statement-breakpoint
CREATE INDEX `sheet_page_attempt` ON `sheet_page` (`attempt_id`);--> statement-breakpoint
CREATE TABLE `sheet_reading` (
	`id` text PRIMARY KEY NOT NULL,
	`sitting_id` text NOT NULL,
	`started_at` integer NOT NULL,
	`started_by` text NOT NULL,
	`applied_at` integer,
	`ended_at` integer,
	FOREIGN KEY (`sitting_id`) REFERENCES `sitting`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `sheet_reading_sitting` ON `sheet_reading` (`sitting_id`,`started_at`);