<?php

declare(strict_types=1);

namespace App\Service;

use App\Approval\Approval;
use App\Http\Problem;
use App\Study\Access;
use App\Study\Role;
use Doctrine\ORM\EntityManagerInterface;
use Nelmio\ApiDocBundle\Attribute\Model;
use OpenApi\Attributes as OA;
use Symfony\Component\HttpFoundation\HeaderUtils;
use Symfony\Component\HttpFoundation\JsonResponse;
use Symfony\Component\HttpFoundation\StreamedResponse;
use Symfony\Component\HttpKernel\Attribute\MapRequestPayload;
use Symfony\Component\Routing\Attribute\Route;

/** Approved models that answer other programs. */
#[OA\Tag('At work')]
final readonly class ServiceController
{
    public function __construct(
        private Access $access,
        private Services $services,
        private ServicePages $pages,
        private Inputs $inputs,
        private EntityManagerInterface $entities,
    ) {
    }

    #[Route('/api/studies/{id<\d{1,18}>}/services', methods: ['GET'])]
    #[OA\Response(
        response: 200,
        description: 'Services of the study',
        content: new OA\JsonContent(type: 'array', items: new OA\Items(ref: new Model(type: ServiceView::class))),
    )]
    public function list(int $id): JsonResponse
    {
        return new JsonResponse(array_map($this->pages->view(...), $this->services->of($this->access->study($id))));
    }

    #[Route('/api/studies/{id<\d{1,18}>}/services', methods: ['POST'])]
    #[OA\Response(response: 201, description: 'The service answers', content: new Model(type: ServiceView::class))]
    public function open(int $id, #[MapRequestPayload] ServiceRequest $request): JsonResponse
    {
        $study = $this->access->study($id, Role::Owner);
        $approval = $this->access->find(Approval::class, $request->approvalId, 'approval', Role::Owner);

        return new JsonResponse($this->pages->view($this->services->open($study, $this->access->user(), $request->name, $approval)), 201);
    }

    #[Route('/api/services/{id<\d{1,18}>}', methods: ['PATCH'])]
    #[OA\Response(response: 200, description: 'Another version answers, or none for a while', content: new Model(type: ServiceView::class))]
    public function change(int $id, #[MapRequestPayload] SwitchRequest $request): JsonResponse
    {
        $service = $this->access->find(Service::class, $id, 'service', Role::Owner);
        if (null !== $request->approvalId) {
            $approval = $this->access->find(Approval::class, $request->approvalId, 'approval', Role::Owner);
            $this->services->switch($service, $this->access->user(), $approval);
        }
        if (null !== $request->keepDays) {
            $this->services->keep($service, $this->access->user(), $request->keepDays);
        }
        if (null !== $request->paused) {
            $this->services->pause($service, $this->access->user(), $request->paused);
        }

        return new JsonResponse($this->pages->view($service));
    }

    #[Route('/api/services/{id<\d{1,18}>}/tokens', methods: ['POST'])]
    #[OA\Response(response: 201, description: 'A token, shown this once', content: new Model(type: MadeTokenView::class))]
    public function token(int $id, #[MapRequestPayload] TokenRequest $request): JsonResponse
    {
        $service = $this->access->find(Service::class, $id, 'service', Role::Owner);
        [$token, $shown] = $this->services->token($service, $this->access->user(), $request);
        foreach ($this->pages->view($service)->tokens as $view) {
            if ($view->id === $token->id()) {
                return new JsonResponse(new MadeTokenView($view, $shown), 201);
            }
        }
        throw Problem::notFound('token');
    }

    #[Route('/api/services/{id<\d{1,18}>}/tokens/{token<\d{1,18}>}', methods: ['DELETE'])]
    #[OA\Response(response: 200, description: 'The token opens nothing any more', content: new Model(type: ServiceView::class))]
    public function revoke(int $id, int $token): JsonResponse
    {
        $service = $this->access->find(Service::class, $id, 'service', Role::Owner);
        $found = $this->entities->find(ServiceToken::class, $token);
        if (null === $found || $found->service() !== $service) {
            throw Problem::notFound('token');
        }
        $this->services->revoke($found, $this->access->user());

        return new JsonResponse($this->pages->view($service));
    }

    #[Route('/api/services/{id<\d{1,18}>}/try', methods: ['POST'])]
    #[OA\Response(
        response: 200,
        description: 'What versions answer, as a caller gets it; it is not counted as a call',
        content: new OA\JsonContent(type: 'array', items: new OA\Items(ref: new Model(type: TriedView::class))),
    )]
    public function try(int $id, #[MapRequestPayload] TryRequest $request): JsonResponse
    {
        return new JsonResponse($this->pages->try($this->access->find(Service::class, $id, 'service'), $request));
    }

    #[Route('/api/services/{id<\d{1,18}>}/records/{number<\d{1,18}>}', methods: ['GET'])]
    #[OA\Response(response: 200, description: 'A record of the study, as a call gives it', content: new OA\JsonContent(type: 'object'))]
    public function record(int $id, int $number): JsonResponse
    {
        return new JsonResponse((object) $this->services->record($this->access->find(Service::class, $id, 'service'), $number));
    }

    #[Route('/api/services/{id<\d{1,18}>}/kept', methods: ['GET'])]
    #[OA\Response(response: 200, description: 'What callers sent, one call a line', content: new OA\MediaType('application/jsonl'))]
    public function kept(int $id): StreamedResponse
    {
        $service = $this->access->find(Service::class, $id, 'service', Role::Owner);
        $this->services->noteTaken($service, $this->access->user());

        return new StreamedResponse(function () use ($service): void {
            foreach ($this->inputs->lines($service->id()) as $line) {
                echo $line;
            }
        }, 200, [
            'Content-Type' => 'application/jsonl',
            'Content-Disposition' => HeaderUtils::makeDisposition('attachment', $service->name().'-calls.jsonl'),
        ]);
    }

    #[Route('/api/services/{id<\d{1,18}>}/openapi', methods: ['GET'])]
    #[OA\Response(response: 200, description: 'An OpenAPI 3.1 document', content: new OA\JsonContent(type: 'object'))]
    public function openApi(int $id): JsonResponse
    {
        return new JsonResponse($this->pages->openApi($this->access->find(Service::class, $id, 'service')));
    }
}
