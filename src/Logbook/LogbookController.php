<?php

declare(strict_types=1);

namespace App\Logbook;

use App\Study\Access;
use Doctrine\ORM\EntityManagerInterface;
use Nelmio\ApiDocBundle\Attribute\Model;
use OpenApi\Attributes as OA;
use Symfony\Component\HttpFoundation\JsonResponse;
use Symfony\Component\HttpKernel\Attribute\MapQueryParameter;
use Symfony\Component\Routing\Attribute\Route;

/** Everything that was done in a study, newest first. */
#[OA\Tag('Logbook')]
final readonly class LogbookController
{
    public function __construct(private Access $access, private EntityManagerInterface $entities)
    {
    }

    #[Route('/api/studies/{id<\d{1,18}>}/logbook', methods: ['GET'])]
    #[OA\Response(response: 200, description: 'A page of the logbook', content: new Model(type: LogbookView::class))]
    public function page(int $id, #[MapQueryParameter] int $offset = 0, #[MapQueryParameter] int $limit = 100): JsonResponse
    {
        $study = $this->access->study($id);
        $repository = $this->entities->getRepository(LogEntry::class);
        $entries = $repository->findBy(['study' => $study], ['id' => 'DESC'], max(1, min(500, $limit)), max(0, $offset));

        return new JsonResponse(new LogbookView($repository->count(['study' => $study]), array_map(LogEntryView::of(...), $entries)));
    }
}
