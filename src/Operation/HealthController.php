<?php

declare(strict_types=1);

namespace App\Operation;

use Doctrine\DBAL\Connection;
use OpenApi\Attributes as OA;
use Symfony\Component\HttpFoundation\JsonResponse;
use Symfony\Component\Routing\Attribute\Route;

/** Whether everything that the installation needs is there. */
#[OA\Tag('Operation')]
final readonly class HealthController
{
    public function __construct(private Connection $connection, private string $dataDirectory)
    {
    }

    #[Route('/api/health', methods: ['GET'])]
    #[OA\Response(response: 200, description: 'All is well', content: new OA\JsonContent(type: 'object'))]
    #[OA\Response(response: 503, description: 'Something is missing')]
    public function __invoke(): JsonResponse
    {
        try {
            $database = 'ok' === $this->connection->fetchOne('PRAGMA quick_check(1)');
            $oldest = $this->connection->fetchOne("SELECT MIN(j.created_at) FROM job_piece p JOIN job j ON j.id = p.job_id WHERE p.state = 'waiting'");
            $age = \is_string($oldest) ? max(0, time() - (int) strtotime($oldest)) : 0;
        } catch (\Throwable) {
            $database = false;
            $age = null;
        }
        $free = @disk_free_space($this->dataDirectory);
        $workers = WorkerPulse::all($this->dataDirectory);
        $well = $database && [] !== $workers && (false === $free || $free > 200e6);

        return new JsonResponse(['well' => $well, 'database' => $database, 'freeDiskMb' => false === $free ? null : (int) ($free / 1048576), 'workers' => $workers, 'jit' => [] !== $workers && !\in_array(false, array_column($workers, 'jit'), true), 'queueAgeSeconds' => $age], $well ? 200 : 503);
    }
}
