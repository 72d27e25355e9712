<?php

declare(strict_types=1);

namespace App\Overview;

use App\Http\Version;
use App\Logbook\Logbook;
use App\Question\TargetRequest;
use App\Question\Targets;
use App\Source\Uploads;
use App\Study\Access;
use App\Study\Role;
use App\Study\Study;
use App\Study\StudyMember;
use App\Table\Tables;
use Doctrine\ORM\EntityManagerInterface;
use Nelmio\ApiDocBundle\Attribute\Model;
use OpenApi\Attributes as OA;
use Symfony\Component\HttpFoundation\JsonResponse;
use Symfony\Component\HttpFoundation\Request;
use Symfony\Component\HttpKernel\Attribute\MapRequestPayload;
use Symfony\Component\Routing\Attribute\Route;

/** Studies. */
#[OA\Tag('Study')]
final readonly class StudyController
{
    public function __construct(private Access $access, private Studies $studies, private Targets $targets, private EntityManagerInterface $entities)
    {
    }

    #[Route('/api/studies', methods: ['GET'])]
    #[OA\Response(response: 200, description: 'The studies of the one who asks', content: new OA\JsonContent(type: 'array', items: new OA\Items(ref: new Model(type: StudyView::class))))]
    public function list(): JsonResponse
    {
        return new JsonResponse($this->studies->views($this->access->memberships()));
    }

    #[Route('/api/studies/deleted', methods: ['GET'])]
    #[OA\Response(response: 200, description: 'Deleted studies that their owner can still bring back', content: new OA\JsonContent(type: 'array', items: new OA\Items(ref: new Model(type: DeletedStudyView::class))))]
    public function deleted(): JsonResponse
    {
        return new JsonResponse(array_map(static fn (StudyMember $m) => DeletedStudyView::of($m->study()), $this->access->deleted()));
    }

    #[Route('/api/studies', methods: ['POST'])]
    #[OA\Response(response: 201, description: 'The new study', content: new Model(type: StudyView::class))]
    public function create(#[MapRequestPayload] StudyRequest $request, Uploads $uploads, Tables $tables): JsonResponse
    {
        $user = $this->access->user();
        $upload = null === $request->uploadId ? null : $uploads->of($user, $request->uploadId);
        if (null !== $upload) {
            // A file that holds nothing leaves no study behind.
            $tables->refuseEmpty($upload);
        }
        $study = $this->studies->create($user, $request->name, $request->question);
        if (null !== $upload) {
            $tables->import($study, $user, $upload, pathinfo($upload->fileName(), \PATHINFO_FILENAME), null);
        }

        return new JsonResponse($this->studies->view($study, Role::Owner), 201);
    }

    #[Route('/api/studies/{id<\d{1,18}>}', methods: ['GET'])]
    #[OA\Response(response: 200, description: 'The study', content: new Model(type: StudyView::class))]
    public function one(int $id): JsonResponse
    {
        $study = $this->access->study($id);

        return new JsonResponse($this->studies->view($study, $this->role($study)));
    }

    #[Route('/api/studies/{id<\d{1,18}>}', methods: ['PATCH'])]
    #[OA\Parameter(name: 'If-Match', in: 'header', required: true, schema: new OA\Schema(type: 'string'))]
    #[OA\Response(response: 200, description: 'The study as it is now', content: new Model(type: StudyView::class))]
    public function rename(int $id, Request $http, #[MapRequestPayload] StudyRequest $request): JsonResponse
    {
        $study = $this->access->study($id, Role::Editor);
        Version::check($http, $this->studies->version($study), $this->studies->view($study, $this->role($study)));
        $study->rename($request->name, '' === $request->question ? $study->question() : $request->question);
        $this->entities->flush();

        return new JsonResponse($this->studies->view($study, $this->role($study)));
    }

    #[Route('/api/studies/{id<\d{1,18}>}/keeping', methods: ['PUT'])]
    #[OA\Response(response: 200, description: 'What was scored goes after so many days', content: new Model(type: StudyView::class))]
    public function keeping(int $id, #[MapRequestPayload] KeepingRequest $request, Logbook $logbook): JsonResponse
    {
        $study = $this->access->study($id, Role::Owner);
        $study->keepFor($request->days);
        $logbook->write($study, $this->access->user(), 'study', 0 === $request->days
            ? 'What was scored is kept for good.'
            : \sprintf('What was scored is kept for %d days.', $request->days));
        $this->entities->flush();

        return new JsonResponse($this->studies->view($study, Role::Owner));
    }

    #[Route('/api/studies/{id<\d{1,18}>}', methods: ['DELETE'])]
    #[OA\Response(response: 204, description: 'Deleted; it can be brought back for 30 days')]
    public function delete(int $id, Logbook $logbook): JsonResponse
    {
        $study = $this->access->study($id, Role::Owner);
        $study->delete();
        $logbook->write($study, $this->access->user(), 'study', 'Study deleted; it can be brought back for 30 days.');
        $this->entities->flush();

        return new JsonResponse(null, 204);
    }

    #[Route('/api/studies/{id<\d{1,18}>}/return', methods: ['POST'])]
    #[OA\Response(response: 200, description: 'The study is back', content: new Model(type: StudyView::class))]
    public function bringBack(int $id, Logbook $logbook): JsonResponse
    {
        $study = $this->access->study($id, Role::Owner, true);
        $study->bringBack();
        $logbook->write($study, $this->access->user(), 'study', 'Study brought back.');
        $this->entities->flush();

        return new JsonResponse($this->studies->view($study, Role::Owner));
    }

    #[Route('/api/studies/{id<\d{1,18}>}/target', methods: ['PUT'])]
    #[OA\Parameter(name: 'If-Match', in: 'header', required: true, schema: new OA\Schema(type: 'string'))]
    #[OA\Response(response: 200, description: 'Target chosen, sealed rows drawn', content: new Model(type: StudyView::class))]
    public function target(int $id, Request $http, #[MapRequestPayload] TargetRequest $request): JsonResponse
    {
        $study = $this->access->study($id, Role::Editor);
        Version::check($http, $this->studies->version($study), $this->studies->view($study, $this->role($study)));
        $this->targets->choose($study, $this->access->user(), $request);

        return new JsonResponse($this->studies->view($study, $this->role($study)));
    }

    private function role(Study $study): Role
    {
        return $this->entities->getRepository(StudyMember::class)->findOneBy(['study' => $study, 'user' => $this->access->user()])?->role() ?? Role::Reader;
    }
}
