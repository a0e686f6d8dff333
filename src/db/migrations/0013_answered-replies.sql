ALTER TABLE `feedback_reply` ADD `answer` text;--> statement-breakpoint
ALTER TABLE `feedback_reply` ADD `answered_at` integer;--> statement-breakpoint
ALTER TABLE `feedback_reply` ADD `answered_by` text REFERENCES user(id);