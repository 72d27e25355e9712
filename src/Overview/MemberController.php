<?php

declare(strict_types=1);

namespace App\Overview;

use App\Account\Audit;
use App\Account\User;
use App\Http\Problem;
use App\Logbook\Logbook;
use App\Study\Access;
use App\Study\Role;
use App\Study\Study;
use App\Study\StudyMember;
use Doctrine\ORM\EntityManagerInterface;
use Nelmio\ApiDocBundle\Attribute\Model;
use OpenApi\Attributes as OA;
use Symfony\Component\HttpFoundation\JsonResponse;
use Symfony\Component\HttpKernel\Attribute\MapRequestPayload;
use Symfony\Component\Routing\Attribute\Route;

/** Who may see and change a study. */
#[OA\Tag('Study')]
final readonly class MemberController
{
    public function __construct(
        private Access $access,
        private EntityManagerInterface $entities,
        private Logbook $logbook,
        private Audit $audit,
    ) {
    }

    #[Route('/api/studies/{id<\d{1,18}>}/members', methods: ['GET'])]
    #[OA\Response(
        response: 200,
        description: 'The members',
        content: new OA\JsonContent(type: 'array', items: new OA\Items(ref: new Model(type: MemberView::class))),
    )]
    public function list(int $id): JsonResponse
    {
        return new JsonResponse($this->members($this->access->study($id)));
    }

    #[Route('/api/studies/{id<\d{1,18}>}/members', methods: ['PUT'])]
    #[OA\Response(
        response: 200,
        description: 'The members as they are now',
        content: new OA\JsonContent(type: 'array', items: new OA\Items(ref: new Model(type: MemberView::class))),
    )]
    public function set(int $id, #[MapRequestPayload] MemberRequest $request): JsonResponse
    {
        $study = $this->access->study($id, Role::Owner);
        $user = $this->entities->getRepository(User::class)->findOneBy(['login' => $request->login]) ?? throw Problem::invalid(\sprintf('Nobody signs in as %s.', $request->login), 'login');
        $repository = $this->entities->getRepository(StudyMember::class);
        $member = $repository->findOneBy(['study' => $study, 'user' => $user]);
        if (Role::Owner === $member?->role() && Role::Owner !== $request->role && 1 === $repository->count(
            ['study' => $study, 'role' => Role::Owner],
        )) {
            throw new Problem(409, 'A study keeps at least one owner.');
        }
        if (null !== $member) {
            $this->entities->remove($member);
            $this->entities->flush();
        }
        if (null !== $request->role) {
            $this->entities->persist(new StudyMember($study, $user, $request->role));
        }
        $this->logbook->write(
            $study,
            $this->access->user(),
            'study',
            null === $request->role ? \sprintf('%s is no longer a member.', $user->name()) : \sprintf(
                '%s is now %s of the study.',
                $user->name(),
                $request->role->value,
            ),
        );
        $this->entities->flush();
        $this->audit->note($this->access->user()->login(), \sprintf(
            'made %s %s of study %d, %s',
            $user->login(),
            null === $request->role ? 'no longer a member' : $request->role->value,
            $study->id(),
            $study->name(),
        ));

        return new JsonResponse($this->members($study));
    }

    /** @return list<MemberView> */
    private function members(Study $study): array
    {
        return array_values(
            array_map(
                static fn (StudyMember $m) => new MemberView($m->user()->login(), $m->user()->name(), $m->role()->value),
                $this->entities->getRepository(StudyMember::class)->findBy(['study' => $study], ['id' => 'ASC']),
            ),
        );
    }
}
