<?php

declare(strict_types=1);

namespace App\Finding;

use App\Register\Looks;
use App\Study\Access;
use App\Study\Role;
use App\Table\DataTable;
use App\Table\Tables;
use Nelmio\ApiDocBundle\Attribute\Model;
use OpenApi\Attributes as OA;
use Symfony\Component\HttpFoundation\JsonResponse;
use Symfony\Component\HttpKernel\Attribute\MapQueryParameter;
use Symfony\Component\HttpKernel\Attribute\MapRequestPayload;
use Symfony\Component\Routing\Attribute\Route;

/** What was found in a table. */
#[OA\Tag('Findings')]
final readonly class FindingController
{
    public function __construct(private Access $access, private Findings $findings, private Looks $looks, private GoesWith $goesWith)
    {
    }

    #[Route('/api/tables/{id<\d{1,18}>}/findings', methods: ['GET'])]
    #[OA\Response(response: 202, description: 'A large table is being looked over; ask again')]
    #[OA\Response(
        response: 200,
        description: 'Findings, the most harmful first, and what goes with the target',
        content: new Model(type: FindingsView::class),
    )]
    public function list(int $id): JsonResponse
    {
        $table = Tables::ready($this->access->find(DataTable::class, $id, 'table'));
        if ($this->looks->isLarge($table) && !$this->findings->areKept($table)) {
            return $this->looks->answer($table, $this->access->user());
        }

        return new JsonResponse($this->findings->of($table));
    }

    #[Route('/api/tables/{id<\d{1,18}>}/goes-with', methods: ['GET'])]
    #[OA\Response(response: 202, description: 'The columns of a large table are being asked; ask again')]
    #[OA\Response(response: 200, description: 'What each column tells about one of them', content: new Model(type: FindingsView::class))]
    public function goesWith(int $id, #[MapQueryParameter] string $column): JsonResponse
    {
        $table = Tables::ready($this->access->find(DataTable::class, $id, 'table'));
        $asked = $this->goesWith->asked($table, $column);
        if ($this->looks->isLarge($table) && !$this->goesWith->isKept($asked)) {
            return $this->looks->answerOn($asked, $this->access->user());
        }

        return new JsonResponse($this->goesWith->of($asked));
    }

    #[Route('/api/tables/{id<\d{1,18}>}/findings/settle', methods: ['POST'])]
    #[OA\Response(response: 200, description: 'The findings as they are now', content: new Model(type: FindingsView::class))]
    public function settle(int $id, #[MapRequestPayload] DismissRequest $request): JsonResponse
    {
        return new JsonResponse($this->findings->dismiss(
            Tables::ready($this->access->find(DataTable::class, $id, 'table', Role::Editor)),
            $this->access->user(),
            $request->key,
            $request->reason,
        ));
    }
}
