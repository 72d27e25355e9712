<?php

declare(strict_types=1);

namespace App\Account;

use App\Http\Problem;
use Doctrine\ORM\EntityManagerInterface;
use Nelmio\ApiDocBundle\Attribute\Model;
use OpenApi\Attributes as OA;
use Symfony\Bundle\SecurityBundle\Security;
use Symfony\Component\HttpFoundation\JsonResponse;
use Symfony\Component\HttpKernel\Attribute\MapRequestPayload;
use Symfony\Component\Routing\Attribute\Route;

/** Accounts of the installation: the owner invites by link and can disable. */
#[OA\Tag('Account')]
final readonly class PeopleController
{
    public function __construct(private SignedIn $signedIn, private Accounts $accounts, private EntityManagerInterface $entities, private Security $security, private Audit $audit)
    {
    }

    #[Route('/api/accounts', methods: ['GET'])]
    #[OA\Response(response: 200, description: 'All accounts', content: new OA\JsonContent(type: 'array', items: new OA\Items(ref: new Model(type: AccountView::class))))]
    public function list(): JsonResponse
    {
        $this->owner();

        return new JsonResponse(array_map(AccountView::of(...), $this->entities->getRepository(User::class)->findBy([], ['name' => 'ASC'])));
    }

    #[Route('/api/accounts/{id<\d{1,18}>}/disable', methods: ['POST'])]
    #[OA\Response(response: 200, description: 'It can no longer sign in', content: new Model(type: AccountView::class))]
    public function disable(int $id): JsonResponse
    {
        $owner = $this->owner();
        $user = $this->entities->find(User::class, $id) ?? throw Problem::notFound('account');
        if ($user === $owner) {
            throw new Problem(409, 'You cannot disable your own account.');
        }
        $this->accounts->disable($user);
        $this->audit->note($owner->login(), \sprintf('disabled the account of %s', $user->login()));

        return new JsonResponse(AccountView::of($user));
    }

    #[Route('/api/invitations', methods: ['POST'])]
    #[OA\Response(response: 201, description: 'A link for one new account', content: new Model(type: InvitationView::class))]
    public function invite(): JsonResponse
    {
        [$invitation, $code] = Invitation::make($this->owner());
        $this->entities->persist($invitation);
        $this->entities->flush();
        $this->audit->note($this->owner()->login(), 'made a link for one new account');

        return new JsonResponse(new InvitationView('/?invitation='.$code, $invitation->expiresAt()->format(\DATE_ATOM)), 201);
    }

    #[Route('/api/setup/invited', methods: ['POST'])]
    #[OA\Response(response: 201, description: 'The new account', content: new Model(type: SessionView::class))]
    public function accept(#[MapRequestPayload] SetupRequest $request): JsonResponse
    {
        $user = $this->accounts->acceptInvitation($request);
        $this->audit->note($user->login(), 'made an account by a link');
        $this->security->login($user, 'json_login', 'main');

        return new JsonResponse(SessionView::of($user), 201);
    }

    private function owner(): User
    {
        $user = $this->signedIn->user();

        return $user->isOwner() ? $user : throw new Problem(403, 'Only the owner of this installation may do this.');
    }
}
