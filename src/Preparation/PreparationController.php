<?php

declare(strict_types=1);

namespace App\Preparation;

use App\Http\Version;
use App\Job\JobView;
use App\Study\Access;
use App\Study\Role;
use App\Table\AskView;
use Doctrine\ORM\EntityManagerInterface;
use Dokimos\Core\Formula\Functions;
use Dokimos\Core\Prepare\Preparation;
use Dokimos\Core\Prepare\Steps;
use Dokimos\Core\Table\Kind;
use Nelmio\ApiDocBundle\Attribute\Model;
use OpenApi\Attributes as OA;
use Symfony\Component\HttpFoundation\HeaderUtils;
use Symfony\Component\HttpFoundation\JsonResponse;
use Symfony\Component\HttpFoundation\Request;
use Symfony\Component\HttpFoundation\Response;
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

        return new JsonResponse(new PreparationView(
            array_map(fn (Variant $v) => $this->variants->view($v, $v->steps()), $this->variants->of($study)),
            $this->variants->candidates($study),
        ));
    }

    #[Route('/api/steps', methods: ['GET'])]
    #[OA\Response(response: 200, description: 'The kinds of steps and what can be set', content: new Model(type: StepsView::class))]
    public function steps(): JsonResponse
    {
        $this->access->user();

        return new JsonResponse(new StepsView(Steps::described(), Functions::help(), array_map(AskView::of(...), Kind::cases())));
    }

    #[Route('/api/studies/{id<\d{1,18}>}/variants', methods: ['POST'])]
    #[OA\Response(response: 201, description: 'A new variant', content: new Model(type: VariantView::class))]
    public function create(int $id, #[MapRequestPayload] VariantRequest $request): JsonResponse
    {
        $study = $this->access->study($id, Role::Editor);
        $from = null === $request->copyFrom ? null : $this->access->find(Variant::class, $request->copyFrom, 'variant');
        $variant = $this->variants->create(
            $study,
            $this->access->user(),
            $request->name,
            $from?->study() === $study ? $from : null,
            $request->steps,
        );

        return new JsonResponse($this->variants->view($variant, $variant->steps()), 201);
    }

    #[Route('/api/variants/{id<\d{1,18}>}/file', methods: ['GET'])]
    #[OA\Response(
        response: 200,
        description: 'The steps as a JSON file, for another study or the command line',
        content: new OA\MediaType(mediaType: 'application/json', schema: new OA\Schema(type: 'object')),
    )]
    public function file(int $id): JsonResponse
    {
        $variant = $this->access->find(Variant::class, $id, 'variant');
        $response = new JsonResponse(
            ['schema' => Preparation::SCHEMA, 'name' => $variant->name(), 'steps' => $variant->steps()],
            200,
            ['Content-Disposition' => HeaderUtils::makeDisposition('attachment', \sprintf('preparation_%s.json', $variant->letter()))],
        );
        $response->setEncodingOptions(\JSON_PRETTY_PRINT | \JSON_PRESERVE_ZERO_FRACTION | \JSON_UNESCAPED_UNICODE | \JSON_UNESCAPED_SLASHES);

        return $response;
    }

    #[Route('/api/variants/{id<\d{1,18}>}/preview', methods: ['POST'])]
    #[OA\Response(response: 200, description: 'What the steps would cost; nothing is stored', content: new Model(type: VariantView::class))]
    public function preview(int $id, #[MapRequestPayload] VariantRequest $request): JsonResponse
    {
        return new JsonResponse($this->variants->view(
            $this->access->find(Variant::class, $id, 'variant'),
            $request->steps ?? [],
            $request->look,
        ));
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

    #[Route('/api/variants/{id<\d{1,18}>}', methods: ['DELETE'])]
    #[OA\Response(response: 204, description: 'The variant is gone; one with trials, and the last one, is kept')]
    public function discard(int $id): Response
    {
        $this->variants->discard($this->access->find(Variant::class, $id, 'variant', Role::Editor), $this->access->user());

        return new Response(null, 204);
    }

    #[Route('/api/variants/{id<\d{1,18}>}/count', methods: ['POST'])]
    #[OA\Response(
        response: 202,
        description: 'Tolls that are known from a sample are counted in all rows; the next view or preview has them',
        content: new Model(type: JobView::class),
    )]
    public function count(int $id, #[MapRequestPayload] VariantRequest $request, CountedTolls $counted): JsonResponse
    {
        $variant = $this->access->find(Variant::class, $id, 'variant', Role::Editor);

        return new JsonResponse($counted->ask($variant, $this->access->user(), $request->steps ?? []), 202);
    }
}
