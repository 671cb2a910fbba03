CREATE TABLE `made` (
	`name` text PRIMARY KEY NOT NULL,
	`bytes` blob NOT NULL,
	`length` integer NOT NULL,
	`used_at` integer NOT NULL
);
--> statement-breakpoint
CREATE INDEX `made_used` ON `made` (`used_at`);