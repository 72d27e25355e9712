<?php

declare(strict_types=1);

namespace App\Dossier;

use App\Study\Access;
use App\Study\Role;
use Nelmio\ApiDocBundle\Attribute\Model;
use OpenApi\Attributes as OA;
use Symfony\Component\HttpFoundation\HeaderUtils;
use Symfony\Component\HttpFoundation\JsonResponse;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\HttpKernel\Attribute\MapQueryParameter;
use Symfony\Component\HttpKernel\Attribute\MapRequestPayload;
use Symfony\Component\Routing\Attribute\Route;

/** The document that tells a study to somebody who was not there. */
#[OA\Tag('At work')]
final readonly class DossierController
{
    public function __construct(private Access $access, private Dossiers $dossiers)
    {
    }

    #[Route('/api/studies/{id<\d{1,18}>}/dossier', methods: ['GET'])]
    #[OA\Response(response: 200, description: 'What the dossier tells', content: new Model(type: DossierView::class))]
    public function view(int $id): JsonResponse
    {
        return new JsonResponse($this->dossiers->view($this->access->study($id)));
    }

    #[Route('/api/studies/{id<\d{1,18}>}/dossier', methods: ['PUT'])]
    #[OA\Response(response: 200, description: 'Sections left out and comments as asked', content: new Model(type: DossierView::class))]
    public function change(int $id, #[MapRequestPayload] DossierRequest $request): JsonResponse
    {
        $study = $this->access->study($id, Role::Editor);
        $this->dossiers->change($study, $this->access->user(), $request);

        return new JsonResponse($this->dossiers->view($study));
    }

    #[Route('/api/studies/{id<\d{1,18}>}/dossier/file', methods: ['GET'])]
    #[OA\Response(response: 200, description: 'The dossier as a file', content: new OA\MediaType('application/pdf'))]
    public function file(int $id, #[MapQueryParameter] string $format = 'pdf', #[MapQueryParameter] bool $short = false): Response
    {
        $study = $this->access->study($id);
        [$bytes, $type] = $this->dossiers->file($study, $format, $short);
        $name = (string) preg_replace('/[^A-Za-z0-9_.-]+/', '_', $study->name()).($short ? '-short.' : '-dossier.').$format;

        return new Response($bytes, 200, [
            'Content-Type' => $type,
            'Content-Disposition' => HeaderUtils::makeDisposition('attachment', $name),
        ]);
    }
}
