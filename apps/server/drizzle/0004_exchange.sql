CREATE TABLE `exchange` (
	`id` text PRIMARY KEY NOT NULL,
	`project` text NOT NULL,
	`what` text NOT NULL,
	`file` text NOT NULL,
	`sent` blob NOT NULL,
	`agreed` blob NOT NULL,
	`seen` text NOT NULL,
	`at` integer NOT NULL,
	FOREIGN KEY (`project`) REFERENCES `project`(`id`) ON UPDATE no action ON DELETE cascade
);
--> statement-breakpoint
CREATE TABLE `saving` (
	`exchange` text NOT NULL,
	`n` integer NOT NULL,
	`bytes` blob NOT NULL,
	`at` integer NOT NULL,
	PRIMARY KEY(`exchange`, `n`),
	FOREIGN KEY (`exchange`) REFERENCES `exchange`(`id`) ON UPDATE no action ON DELETE cascade
);
