CREATE TABLE `responses` (
	`hash` text PRIMARY KEY NOT NULL,
	`name` text NOT NULL,
	`path` text NOT NULL,
	`tags` text NOT NULL,
	`favourite` integer DEFAULT false NOT NULL,
	`bytes` integer NOT NULL,
	`sample_rate` integer NOT NULL,
	`channels` integer NOT NULL,
	`bits` integer NOT NULL,
	`frames` integer NOT NULL,
	`duration_s` real NOT NULL,
	`peak_dbfs` real NOT NULL,
	`dc` real NOT NULL,
	`onset_samples` integer NOT NULL,
	`polarity` text NOT NULL,
	`length_ms` real NOT NULL,
	`clipped` integer NOT NULL,
	`loudness_db` real NOT NULL,
	`centroid_hz` real NOT NULL,
	`bands` text NOT NULL,
	`fingerprint` text NOT NULL,
	`created_at` integer NOT NULL,
	`deleted_at` integer
);
--> statement-breakpoint
CREATE INDEX `responses_fingerprint` ON `responses` (`fingerprint`);--> statement-breakpoint
CREATE INDEX `responses_listed` ON `responses` (`deleted_at`,`path`,`name`);