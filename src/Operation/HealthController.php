<?php

declare(strict_types=1);

namespace App\Operation;

use App\Storage\Store;
use Doctrine\DBAL\Connection;
use Nelmio\ApiDocBundle\Attribute\Model;
use OpenApi\Attributes as OA;
use Symfony\Component\HttpFoundation\JsonResponse;
use Symfony\Component\Routing\Attribute\Route;

/** Whether everything that the installation needs is there. */
#[OA\Tag('Operation')]
final readonly class HealthController
{
    public function __construct(private Connection $connection, private Store $store, private string $dataDirectory)
    {
    }

    #[Route('/api/health', methods: ['GET'])]
    #[OA\Response(response: 200, description: 'All is well', content: new OA\JsonContent(type: 'object'))]
    #[OA\Response(response: 503, description: 'Something is missing')]
    public function __invoke(): JsonResponse
    {
        $health = Health::of($this->connection, $this->store, $this->dataDirectory, true);
        $well = [] === $health->says;

        return new JsonResponse(
            [
                'well' => $well,
                'says' => $health->says,
                'database' => $health->database,
                'store' => $this->store->title(),
                'freeDiskMb' => $health->freeMegabytes,
                'workers' => $health->workers,
                'jit' => [] !== $health->workers && !\in_array(false, array_column($health->workers, 'jit'), true),
                'queueAgeSeconds' => $health->queueAge,
                'stuckLanes' => $health->stuck,
            ],
            $well ? 200 : 503,
        );
    }

    #[Route('/api/notices', methods: ['GET'])]
    #[OA\Response(
        response: 200,
        description: 'What everybody who works here should know of the installation, in sentences; mostly nothing',
        content: new Model(type: NoticesView::class),
    )]
    public function notices(): JsonResponse
    {
        return new JsonResponse(new NoticesView(Health::of($this->connection, $this->store, $this->dataDirectory, false)->says));
    }
}
