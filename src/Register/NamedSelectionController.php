<?php

declare(strict_types=1);

namespace App\Register;

use App\Logbook\Logbook;
use App\Study\Access;
use App\Study\Role;
use Doctrine\ORM\EntityManagerInterface;
use Nelmio\ApiDocBundle\Attribute\Model;
use OpenApi\Attributes as OA;
use Symfony\Component\HttpFoundation\JsonResponse;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\HttpKernel\Attribute\MapRequestPayload;
use Symfony\Component\Routing\Attribute\Route;

/** Narrowed records that have a name. */
#[OA\Tag('Tables')]
final readonly class NamedSelectionController
{
    public function __construct(private Access $access, private EntityManagerInterface $entities, private Logbook $logbook)
    {
    }

    #[Route('/api/studies/{id<\d{1,18}>}/selections', methods: ['GET'])]
    #[OA\Response(
        response: 200,
        description: 'Selections of the study by name',
        content: new OA\JsonContent(type: 'array', items: new OA\Items(ref: new Model(type: NamedSelectionView::class))),
    )]
    public function list(int $id): JsonResponse
    {
        return new JsonResponse(array_map(
            NamedSelectionView::of(...),
            $this->entities->getRepository(NamedSelection::class)->findBy(['study' => $this->access->study($id)], ['name' => 'ASC']),
        ));
    }

    #[Route('/api/studies/{id<\d{1,18}>}/selections', methods: ['POST'])]
    #[OA\Response(
        response: 201,
        description: 'It has a name; one of that name is what is asked now',
        content: new Model(type: NamedSelectionView::class),
    )]
    public function keep(int $id, #[MapRequestPayload] NamedSelectionRequest $request): JsonResponse
    {
        $study = $this->access->study($id, Role::Editor);
        $name = trim($request->name);
        $kept = $this->entities->getRepository(NamedSelection::class)->findOneBy(['study' => $study, 'name' => $name]);
        if (null === $kept) {
            $kept = new NamedSelection($study, $name, $request->view, $request->query, $request->records);
            $this->entities->persist($kept);
        } else {
            $kept->renew($request->view, $request->query, $request->records);
        }
        $this->logbook->write(
            $study,
            $this->access->user(),
            str_starts_with($request->view, 'decisions') ? 'decisions' : 'table',
            \sprintf('Named %s records "%s".', number_format($request->records), $name),
        );
        $this->entities->flush();

        return new JsonResponse(NamedSelectionView::of($kept), 201);
    }

    #[Route('/api/selections/{id<\d{1,18}>}', methods: ['DELETE'])]
    #[OA\Response(response: 204, description: 'The name is gone; no record is')]
    public function remove(int $id): Response
    {
        $this->entities->remove($this->access->find(NamedSelection::class, $id, 'selection', Role::Editor));
        $this->entities->flush();

        return new Response(null, 204);
    }
}
