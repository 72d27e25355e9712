<?php

declare(strict_types=1);

namespace App\Operation;

use App\Job\Jobs;
use App\Storage\Store;
use Doctrine\DBAL\Connection;

/** Whether everything that the installation needs is there, and in sentences what is not. */
final readonly class Health
{
    private const LEAST_FREE = 200e6;
    /** Seconds. */
    private const QUICK_WAITS = 60;

    /**
     * @param list<string>                                                           $says    what is amiss; nothing where all is well
     * @param list<array{lanes: list<string>, jit: bool, pid: int, machine: string}> $workers
     * @param list<string>                                                           $stuck   lanes in which work waits that should not
     */
    private function __construct(
        public array $says,
        public bool $database,
        public ?int $freeMegabytes,
        public array $workers,
        public ?int $queueAge,
        public array $stuck,
    ) {
    }

    /** @param bool $thorough whether the whole database is read through */
    public static function of(Connection $connection, Store $store, string $dataDirectory, bool $thorough): self
    {
        $workers = [];
        $age = null;
        $stuck = [];
        try {
            $workers = WorkerPulse::all($dataDirectory, $connection, $store);
            $now = $store->now();
            $database = !$thorough || $store->isSound();
            foreach ([Jobs::QUICK, Jobs::LONG] as $lane) {
                $oldest = $connection->fetchOne(
                    "SELECT MIN(waiting_since) FROM job_piece WHERE lane = ? AND (state = 'waiting' OR state = 'running' AND lease_until < ?)",
                    [$lane, $now],
                );
                $waits = is_numeric($oldest) ? max(0, (int) ($now - (float) $oldest)) : 0;
                $age = max($age ?? 0, $waits);
                // Long work may wait for long work; quick work may not.
                if (Jobs::QUICK === $lane && $waits > self::QUICK_WAITS || $waits > 0 && [] === array_filter(
                    $workers,
                    static fn (array $w): bool => \in_array($lane, $w['lanes'], true),
                )) {
                    $stuck[] = $lane;
                }
            }
        } catch (\Throwable) {
            $database = false;
        }
        $free = @disk_free_space($dataDirectory);
        $full = false !== $free && $free < self::LEAST_FREE;
        $says = array_keys(array_filter([
            'The database cannot be read.' => !$database,
            'The disk is full or nearly so: free some space, and everything goes on.' => $full,
            'No worker is running: nothing is computed until Dokimos is started again.' => [] === $workers,
            'Short work has been waiting for over a minute: a worker is held up.' => [] !== $workers && \in_array(Jobs::QUICK, $stuck, true),
            'No worker takes long work.' => [] !== $workers && \in_array(Jobs::LONG, $stuck, true),
        ]));

        return new self(array_map(strval(...), $says), $database, false === $free ? null : (int) ($free / 1048576), $workers, $age, $stuck);
    }
}
