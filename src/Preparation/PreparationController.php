<?php

declare(strict_types=1);

namespace App\Preparation;

use App\Http\Version;
use App\Study\Access;
use App\Study\Role;
use Doctrine\ORM\EntityManagerInterface;
use Nelmio\ApiDocBundle\Attribute\Model;
use OpenApi\Attributes as OA;
use Symfony\Component\HttpFoundation\JsonResponse;
use Symfony\Component\HttpFoundation\Request;
use Symfony\Component\HttpKernel\Attribute\MapRequestPayload;
use Symfony\Component\Routing\Attribute\Route;

/** Preparation variants. */
#[OA\Tag('Preparation')]
final readonly class PreparationController
{
    public function __construct(private Access $access, private Variants $variants, private EntityManagerInterface $entities)
    {
    }

    #[Route('/api/studies/{id<\d{1,18}>}/preparation', methods: ['GET'])]
    #[OA\Response(response: 200, description: 'The variants with their tolls', content: new Model(type: PreparationView::class))]
    public function all(int $id): JsonResponse
    {
        $study = $this->access->study($id);

        return new JsonResponse(new PreparationView(array_map(fn (Variant $v) => $this->variants->view($v, $v->steps()), $this->variants->of($study)), $this->variants->candidates($study)));
    }

    #[Route('/api/studies/{id<\d{1,18}>}/variants', methods: ['POST'])]
    #[OA\Response(response: 201, description: 'A new variant', content: new Model(type: VariantView::class))]
    public function create(int $id, #[MapRequestPayload] VariantRequest $request): JsonResponse
    {
        $study = $this->access->study($id, Role::Editor);
        $from = null === $request->copyFrom ? null : $this->access->find(Variant::class, $request->copyFrom, 'variant');
        $variant = $this->variants->create($study, $this->access->user(), $request->name, $from?->study() === $study ? $from : null);

        return new JsonResponse($this->variants->view($variant, $variant->steps()), 201);
    }

    #[Route('/api/variants/{id<\d{1,18}>}/preview', methods: ['POST'])]
    #[OA\Response(response: 200, description: 'What the steps would cost; nothing is stored', content: new Model(type: VariantView::class))]
    public function preview(int $id, #[MapRequestPayload] VariantRequest $request): JsonResponse
    {
        return new JsonResponse($this->variants->view($this->access->find(Variant::class, $id, 'variant'), $request->steps ?? []));
    }

    #[Route('/api/variants/{id<\d{1,18}>}', methods: ['PUT'])]
    #[OA\Parameter(name: 'If-Match', in: 'header', required: true, schema: new OA\Schema(type: 'string'))]
    #[OA\Response(response: 200, description: 'The variant as it is now', content: new Model(type: VariantView::class))]
    public function change(int $id, Request $http, #[MapRequestPayload] VariantRequest $request): JsonResponse
    {
        $variant = $this->access->find(Variant::class, $id, 'variant', Role::Editor);
        Version::check($http, $variant->version(), $this->variants->view($variant, $variant->steps()));
        $view = $this->variants->change($variant, $this->access->user(), $request->name, $request->steps);
        $this->entities->refresh($variant);

        return new JsonResponse($view);
    }
}
