<?php

declare(strict_types=1);

namespace App\Trial;

use App\Http\Problem;
use App\Study\Access;
use App\Study\Role;
use Doctrine\ORM\EntityManagerInterface;
use Nelmio\ApiDocBundle\Attribute\Model;
use OpenApi\Attributes as OA;
use Symfony\Component\HttpFoundation\JsonResponse;
use Symfony\Component\HttpKernel\Attribute\MapRequestPayload;
use Symfony\Component\Routing\Attribute\Route;

/** Choices of columns under a name. */
#[OA\Tag('Trials')]
final readonly class ChoiceController
{
    public function __construct(private Access $access, private EntityManagerInterface $entities)
    {
    }

    #[Route('/api/studies/{id<\d{1,18}>}/choices', methods: ['GET'])]
    #[OA\Response(
        response: 200,
        description: 'Named choices of columns',
        content: new OA\JsonContent(type: 'array', items: new OA\Items(ref: new Model(type: ChoiceView::class))),
    )]
    public function list(int $id): JsonResponse
    {
        $all = $this->entities->getRepository(NamedChoice::class)->findBy(['study' => $this->access->study($id)], ['name' => 'ASC']);

        return new JsonResponse(array_map(ChoiceView::of(...), $all));
    }

    #[Route('/api/studies/{id<\d{1,18}>}/choices', methods: ['POST'])]
    #[OA\Response(
        response: 201,
        description: 'Kept under its name, in place of what was there',
        content: new Model(type: ChoiceView::class),
    )]
    public function keep(int $id, #[MapRequestPayload] ChoiceRequest $request): JsonResponse
    {
        $study = $this->access->study($id, Role::Editor);
        $name = trim($request->name);
        if ('' === $name) {
            throw Problem::invalid('Give the choice a name.', 'name');
        }
        $kept = $this->entities->getRepository(NamedChoice::class)->findOneBy(['study' => $study, 'name' => $name]);
        $kept ??= new NamedChoice($study, $name, $request->choice()->toArray());
        $kept->choose($request->choice());
        $this->entities->persist($kept);
        $this->entities->flush();

        return new JsonResponse(ChoiceView::of($kept), 201);
    }

    #[Route('/api/choices/{id<\d{1,18}>}', methods: ['DELETE'])]
    #[OA\Response(response: 204, description: 'The name is gone; trials that used it stay as they are')]
    public function drop(int $id): JsonResponse
    {
        $this->entities->remove($this->access->find(NamedChoice::class, $id, 'choice', Role::Editor));
        $this->entities->flush();

        return new JsonResponse(null, 204);
    }
}
