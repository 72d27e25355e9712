<?php

declare(strict_types=1);

namespace App\Account;

use App\Http\Problem;
use Doctrine\DBAL\Connection;
use Doctrine\ORM\EntityManagerInterface;
use Nelmio\ApiDocBundle\Attribute\Model;
use OpenApi\Attributes as OA;
use Symfony\Component\HttpFoundation\JsonResponse;
use Symfony\Component\HttpFoundation\Request;
use Symfony\Component\HttpKernel\Attribute\MapRequestPayload;
use Symfony\Component\PasswordHasher\Hasher\UserPasswordHasherInterface;
use Symfony\Component\Routing\Attribute\Route;

/** How one's own account is kept safe: the second step, and where one is signed in. */
#[OA\Tag('Account')]
final readonly class MeController
{
    public function __construct(
        private SignedIn $signedIn,
        private SecondFactor $factor,
        private Connection $connection,
        private EntityManagerInterface $entities,
        private UserPasswordHasherInterface $hasher,
        private Audit $audit,
    ) {
    }

    #[Route('/api/me/safety', methods: ['GET'])]
    #[OA\Response(response: 200, description: 'The second step, and where one is signed in', content: new Model(type: SafetyView::class))]
    public function safety(Request $request): JsonResponse
    {
        $user = $this->signedIn->user();
        $own = $request->hasSession() ? Sessions::hash($request->getSession()->getId()) : '';
        $rows = $this->connection->fetchAllAssociative(
            'SELECT id_hash, address, agent, began, seen FROM session WHERE user_id = ? ORDER BY seen DESC, id_hash',
            [$user->id()],
        );

        return new JsonResponse(new SafetyView(
            $user->hasSecondFactor(),
            \count($user->secondFactor()['codes'] ?? []),
            array_map(static fn (array $r): SignedInView => SignedInView::of($r, $own), $rows),
        ));
    }

    #[Route('/api/me/sessions/{hash<[0-9a-f]{64}>}', methods: ['DELETE'])]
    #[OA\Response(response: 204, description: 'It is signed out; staying signed in ends everywhere')]
    public function end(string $hash): JsonResponse
    {
        $user = $this->signedIn->user();
        $ended = $this->connection->executeStatement('DELETE FROM session WHERE id_hash = ? AND user_id = ?', [$hash, $user->id()]);
        if (0 === (int) $ended) {
            throw Problem::notFound('session');
        }
        // A cookie that keeps somebody signed in would begin the session anew.
        $user->endStays();
        $this->audit->note($user->login(), 'signed out another place');
        $this->entities->flush();

        return new JsonResponse(null, 204);
    }

    #[Route('/api/me/second-factor', methods: ['POST'])]
    #[OA\Response(response: 200, description: 'A secret for an app', content: new Model(type: SecondFactorView::class))]
    public function begin(): JsonResponse
    {
        return new JsonResponse($this->factor->begin($this->signedIn->user()));
    }

    #[Route('/api/me/second-factor/confirm', methods: ['POST'])]
    #[OA\Response(response: 200, description: 'It is on; codes for a lost telephone', content: new Model(type: SecondFactorView::class))]
    public function confirm(#[MapRequestPayload] CodeRequest $request): JsonResponse
    {
        return new JsonResponse($this->factor->confirm($this->signedIn->user(), $request->code));
    }

    #[Route('/api/me/second-factor/end', methods: ['POST'])]
    #[OA\Response(response: 204, description: 'It is off')]
    public function off(#[MapRequestPayload] CodeRequest $request): JsonResponse
    {
        $user = $this->signedIn->user();
        if (!$this->hasher->isPasswordValid($user, $request->password)) {
            throw Problem::invalid('The password is not right.', 'password');
        }
        $this->factor->end($user, $user->login());

        return new JsonResponse(null, 204);
    }

    #[Route('/api/audit', methods: ['GET'])]
    #[OA\Response(
        response: 200,
        description: 'What was done to the installation, the newest first',
        content: new OA\JsonContent(type: 'array', items: new OA\Items(ref: new Model(type: AuditView::class))),
    )]
    public function audit(): JsonResponse
    {
        return $this->signedIn->user()->isOwner()
            ? new JsonResponse($this->audit->newest())
            : throw new Problem(403, 'Only the owner of this installation may do this.');
    }
}
