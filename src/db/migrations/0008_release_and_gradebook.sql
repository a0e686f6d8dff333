CREATE TABLE `grade_column` (
	`id` text PRIMARY KEY NOT NULL,
	`course_id` text NOT NULL,
	`sitting_id` text,
	`title` text NOT NULL,
	`worth` real,
	`group_id` text,
	`extra_credit` integer DEFAULT false NOT NULL,
	`curve` text,
	`late` text,
	`position` integer NOT NULL,
	`removed_at` integer,
	FOREIGN KEY (`course_id`) REFERENCES `course`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`sitting_id`) REFERENCES `sitting`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`group_id`) REFERENCES `grade_group`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `grade_column_course` ON `grade_column` (`course_id`,`position`);--> statement-breakpoint
CREATE TABLE `grade_entry` (
	`id` integer PRIMARY KEY AUTOINCREMENT NOT NULL,
	`column_id` text NOT NULL,
	`course_id` text NOT NULL,
	`user_id` text NOT NULL,
	`points` real,
	`excused` integer DEFAULT false NOT NULL,
	`reason` text DEFAULT '' NOT NULL,
	`batch` text,
	`taken_back_at` integer,
	`at` integer NOT NULL,
	`by` text NOT NULL,
	FOREIGN KEY (`course_id`) REFERENCES `course`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`user_id`) REFERENCES `user`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`by`) REFERENCES `user`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `grade_entry_course` ON `grade_entry` (`course_id`,`column_id`,`user_id`);--> statement-breakpoint
CREATE INDEX `grade_entry_batch` ON `grade_entry` (`batch`);--> statement-breakpoint
CREATE TABLE `grade_group` (
	`id` text PRIMARY KEY NOT NULL,
	`course_id` text NOT NULL,
	`title` text NOT NULL,
	`weight` real NOT NULL,
	`counting` text NOT NULL,
	`drop` integer NOT NULL,
	`position` integer NOT NULL,
	FOREIGN KEY (`course_id`) REFERENCES `course`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `grade_group_course` ON `grade_group` (`course_id`,`position`);--> statement-breakpoint
CREATE TABLE `feedback_reply` (
	`id` text PRIMARY KEY NOT NULL,
	`sitting_id` text NOT NULL,
	`user_id` text NOT NULL,
	`text` text NOT NULL,
	`at` integer NOT NULL,
	`read_at` integer,
	`read_by` text,
	FOREIGN KEY (`sitting_id`) REFERENCES `sitting`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`user_id`) REFERENCES `user`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`read_by`) REFERENCES `user`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
CREATE INDEX `feedback_reply_sitting` ON `feedback_reply` (`sitting_id`,`user_id`);--> statement-breakpoint
CREATE TABLE `release_view` (
	`sitting_id` text NOT NULL,
	`user_id` text NOT NULL,
	`fact` text NOT NULL,
	`opened_at` integer NOT NULL,
	PRIMARY KEY(`sitting_id`, `user_id`, `fact`),
	FOREIGN KEY (`sitting_id`) REFERENCES `sitting`(`id`) ON UPDATE no action ON DELETE no action,
	FOREIGN KEY (`user_id`) REFERENCES `user`(`id`) ON UPDATE no action ON DELETE no action
);
--> statement-breakpoint
ALTER TABLE `course` ADD `gradebook` text;--> statement-breakpoint
ALTER TABLE `course` ADD `sheet_layout` text;--> statement-breakpoint
ALTER TABLE `publication` ADD `preliminary` integer DEFAULT false NOT NULL;--> statement-breakpoint
ALTER TABLE `publication` ADD `marked` real;--> statement-breakpoint
ALTER TABLE `publication` ADD `waiting` integer DEFAULT 0 NOT NULL;--> statement-breakpoint
ALTER TABLE `sitting` ADD `self_publish` text;--> statement-breakpoint
ALTER TABLE `sitting` ADD `bands` text;--> statement-breakpoint
ALTER TABLE `sitting` ADD `completion` text;