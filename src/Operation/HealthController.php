<?php

declare(strict_types=1);

namespace App\Operation;

use App\Job\Jobs;
use Doctrine\DBAL\Connection;
use OpenApi\Attributes as OA;
use Symfony\Component\HttpFoundation\JsonResponse;
use Symfony\Component\Routing\Attribute\Route;

/** Whether everything that the installation needs is there. */
#[OA\Tag('Operation')]
final readonly class HealthController
{
    private const LEAST_FREE = 200e6;
    /** Seconds. */
    private const QUICK_WAITS = 60;

    public function __construct(private Connection $connection, private string $dataDirectory)
    {
    }

    #[Route('/api/health', methods: ['GET'])]
    #[OA\Response(response: 200, description: 'All is well', content: new OA\JsonContent(type: 'object'))]
    #[OA\Response(response: 503, description: 'Something is missing')]
    public function __invoke(): JsonResponse
    {
        $workers = WorkerPulse::all($this->dataDirectory);
        $age = null;
        $stuck = [];
        try {
            $database = 'ok' === $this->connection->fetchOne('PRAGMA quick_check(1)');
            foreach ([Jobs::QUICK, Jobs::LONG] as $lane) {
                $oldest = $this->connection->fetchOne("SELECT MIN(waiting_since) FROM job_piece WHERE lane = ? AND (state = 'waiting' OR state = 'running' AND lease_until < ?)", [$lane, microtime(true)]);
                $waits = is_numeric($oldest) ? max(0, (int) (microtime(true) - (float) $oldest)) : 0;
                $age = max($age ?? 0, $waits);
                // Long work may wait for long work; quick work may not.
                if (Jobs::QUICK === $lane && $waits > self::QUICK_WAITS || $waits > 0 && [] === array_filter($workers, static fn (array $w): bool => \in_array($lane, $w['lanes'], true))) {
                    $stuck[] = $lane;
                }
            }
        } catch (\Throwable) {
            $database = false;
        }
        $free = @disk_free_space($this->dataDirectory);
        $full = false !== $free && $free < self::LEAST_FREE;
        $says = array_keys(array_filter([
            'The database cannot be read.' => !$database,
            'The disk is full or nearly so: free some space, and everything goes on.' => $full,
            'No worker is running: nothing is computed until Dokimos is started again.' => [] === $workers,
            'Short work has been waiting for over a minute: a worker is held up.' => [] !== $workers && \in_array(Jobs::QUICK, $stuck, true),
            'No worker takes long work.' => [] !== $workers && \in_array(Jobs::LONG, $stuck, true),
        ]));
        $well = [] === $says;

        return new JsonResponse(['well' => $well, 'says' => $says, 'database' => $database, 'freeDiskMb' => false === $free ? null : (int) ($free / 1048576), 'workers' => $workers, 'jit' => [] !== $workers && !\in_array(false, array_column($workers, 'jit'), true), 'queueAgeSeconds' => $age, 'stuckLanes' => $stuck], $well ? 200 : 503);
    }
}
