CREATE TABLE `carried_out` (
	`user_id` text NOT NULL,
	`once` text NOT NULL,
	`at` integer NOT NULL,
	`answer` text,
	PRIMARY KEY(`user_id`, `once`)
);
--> statement-breakpoint
CREATE INDEX `carried_out_at` ON `carried_out` (`at`);