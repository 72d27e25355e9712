<?php

declare(strict_types=1);

namespace App\Judgment;

use App\Http\Problem;
use App\Study\Access;
use App\Study\Role;
use App\Trial\Trial;
use Dokimos\Core\Task\CutOff;
use Nelmio\ApiDocBundle\Attribute\Model;
use OpenApi\Attributes as OA;
use Symfony\Component\HttpFoundation\HeaderUtils;
use Symfony\Component\HttpFoundation\JsonResponse;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\HttpKernel\Attribute\MapQueryParameter;
use Symfony\Component\Routing\Attribute\Route;

/** The judgment of one trial. */
#[OA\Tag('Judgment')]
final readonly class JudgmentController
{
    public function __construct(
        private Access $access,
        private Judgments $judgments,
        private Groupings $groupings,
        private Opponents $opponents,
        private Behind $behind,
        private Elsewhere $elsewhere,
        private Pictures $pictures,
    ) {
    }

    #[Route('/api/trials/{id<\d{1,18}>}/judgment', methods: ['GET'])]
    #[OA\Response(response: 200, description: 'Figures beside the baseline', content: new Model(type: JudgmentView::class))]
    public function judgment(int $id): JsonResponse
    {
        return new JsonResponse($this->judgments->of($this->access->find(Trial::class, $id, 'trial')));
    }

    #[Route('/api/trials/{id<\d{1,18}>}/tree', methods: ['GET'])]
    #[OA\Response(response: 200, description: 'A decision tree, leaf by leaf', content: new Model(type: TreeView::class))]
    public function tree(int $id): JsonResponse
    {
        return new JsonResponse($this->judgments->tree($this->access->find(Trial::class, $id, 'trial')));
    }

    #[Route('/api/trials/{id<\d{1,18}>}/tree/leaf', methods: ['GET'])]
    #[OA\Response(response: 200, description: 'The open records that end in a leaf', content: new Model(type: LeafRecordsView::class))]
    public function leaf(int $id, #[MapQueryParameter] int $node): JsonResponse
    {
        return new JsonResponse($this->behind->leaf($this->access->find(Trial::class, $id, 'trial'), $node));
    }

    #[Route('/api/trials/{id<\d{1,18}>}/rules/file', methods: ['GET'])]
    #[OA\Response(
        response: 200,
        description: 'Rules as sentences, a table, or a condition of SQL',
        content: new OA\MediaType(mediaType: 'text/plain', schema: new OA\Schema(type: 'string')),
    )]
    public function rulesFile(int $id, #[MapQueryParameter] string $as = 'text', #[MapQueryParameter] bool $sound = false): Response
    {
        $trial = $this->access->find(Trial::class, $id, 'trial');

        return self::taken($this->elsewhere->rules($trial, $as, $sound), $as, \sprintf('trial_%d_rules', $trial->number()));
    }

    private static function taken(string $text, string $as, string $name): Response
    {
        return new Response($text, 200, [
            'Content-Type' => ('csv' === $as ? 'text/csv' : 'text/plain').'; charset=utf-8',
            'Content-Disposition' => HeaderUtils::makeDisposition('attachment', $name.['text' => '.txt', 'csv' => '.csv', 'sql' => '.sql'][$as]),
        ]);
    }

    #[Route('/api/trials/{id<\d{1,18}>}/tree/file', methods: ['GET'])]
    #[OA\Response(
        response: 200,
        description: 'The leaves of a tree as sentences, a table, or a condition of SQL',
        content: new OA\MediaType(mediaType: 'text/plain', schema: new OA\Schema(type: 'string')),
    )]
    public function treeFile(int $id, #[MapQueryParameter] string $as = 'text', #[MapQueryParameter] bool $sound = false): Response
    {
        $trial = $this->access->find(Trial::class, $id, 'trial');

        return self::taken($this->elsewhere->tree($trial, $as, $sound), $as, \sprintf('trial_%d_tree', $trial->number()));
    }

    #[Route('/api/trials/{id<\d{1,18}>}/records', methods: ['GET'])]
    #[OA\Response(
        response: 200,
        description: 'The records behind a cell of the confusion matrix',
        content: new Model(type: RecordsView::class),
    )]
    public function records(
        int $id,
        #[MapQueryParameter] string $cell = 'fn',
        #[MapQueryParameter] float $cutoff = 0.5,
        #[MapQueryParameter] int $offset = 0,
        #[MapQueryParameter] int $limit = 50,
    ): JsonResponse {
        return new JsonResponse($this->behind->records(
            $this->access->find(Trial::class, $id, 'trial'),
            new Pick(self::cell($cell), CutOff::at($cutoff)),
            $offset,
            $limit,
        ));
    }

    #[Route('/api/trials/{id<\d{1,18}>}/picture', methods: ['GET'])]
    #[OA\Response(
        response: 200,
        description: 'The records of a cell, of a pair of classes or of a band of errors on two columns, laid over all the others',
        content: new Model(type: PictureView::class),
    )]
    public function picture(
        int $id,
        #[MapQueryParameter] string $x = '',
        #[MapQueryParameter] string $y = '',
        #[MapQueryParameter] ?string $cell = null,
        #[MapQueryParameter] float $cutoff = 0.5,
        #[MapQueryParameter] ?string $came = null,
        #[MapQueryParameter] ?string $named = null,
        #[MapQueryParameter] ?float $low = null,
        #[MapQueryParameter] ?float $high = null,
    ): JsonResponse {
        return new JsonResponse($this->pictures->of(
            $this->access->find(Trial::class, $id, 'trial'),
            new Pick(null === $cell ? null : self::cell($cell), CutOff::at($cutoff), $came, $named, $low, $high),
            $x,
            $y,
        ));
    }

    /** @return 'tp'|'fp'|'fn'|'tn' */
    private static function cell(string $cell): string
    {
        return \in_array($cell, ['tp', 'fp', 'fn', 'tn'], true) ? $cell : throw Problem::invalid(
            'A cell is one of tp, fp, fn, tn.',
            'cell',
        );
    }

    #[Route('/api/trials/{id<\d{1,18}>}/cutoff', methods: ['GET'])]
    #[OA\Response(
        response: 200,
        description: 'The cut-off that does best by a figure or by costs, judged on folds that did not choose it',
        content: new Model(type: FoundCutOffView::class),
    )]
    public function cutoff(
        int $id,
        #[MapQueryParameter] string $by = 'f1',
        #[MapQueryParameter] float $miss = 1.0,
        #[MapQueryParameter] float $vain = 1.0,
    ): JsonResponse {
        return new JsonResponse($this->judgments->foundCutOff($this->access->find(Trial::class, $id, 'trial'), $by, $miss, $vain));
    }

    #[Route('/api/trials/{id<\d{1,18}>}/worst', methods: ['GET'])]
    #[OA\Response(
        response: 200,
        description: 'The validation rows that a number or several classes were most wrong for; of several classes also those of one cell: came as one class, named another',
        content: new Model(type: WorstView::class),
    )]
    public function worst(
        int $id,
        #[MapQueryParameter] int $limit = 50,
        #[MapQueryParameter] ?string $came = null,
        #[MapQueryParameter] ?string $named = null,
        #[MapQueryParameter] ?float $low = null,
        #[MapQueryParameter] ?float $high = null,
    ): JsonResponse {
        return new JsonResponse($this->behind->worst(
            $this->access->find(Trial::class, $id, 'trial'),
            new Pick(null, CutOff::half(), $came, $named, $low, $high),
            $limit,
        ));
    }

    #[Route('/api/trials/{id<\d{1,18}>}/groups', methods: ['GET'])]
    #[OA\Response(response: 200, description: 'Figures by the values of one column', content: new Model(type: GroupsView::class))]
    public function groups(int $id, #[MapQueryParameter] string $by = '', #[MapQueryParameter] float $cutoff = 0.5): JsonResponse
    {
        return new JsonResponse($this->groupings->of($this->access->find(Trial::class, $id, 'trial'), $by, CutOff::at($cutoff)));
    }

    #[Route('/api/trials/{id<\d{1,18}>}/against', methods: ['GET'])]
    #[OA\Response(response: 200, description: 'Two trials on the same validation rows', content: new Model(type: AgainstView::class))]
    public function against(int $id, #[MapQueryParameter] int $other = 0, #[MapQueryParameter] float $cutoff = 0.5): JsonResponse
    {
        return new JsonResponse($this->opponents->of(
            $this->access->find(Trial::class, $id, 'trial'),
            $this->access->find(Trial::class, $other, 'trial'),
            CutOff::at($cutoff),
        ));
    }

    #[Route('/api/trials/{id<\d{1,18}>}/seal', methods: ['POST'])]
    #[OA\Response(response: 200, description: 'The seal is open', content: new Model(type: JudgmentView::class))]
    public function openSeal(int $id): JsonResponse
    {
        $trial = $this->access->find(Trial::class, $id, 'trial', Role::Editor);
        $this->judgments->openSeal($trial, $this->access->user());

        return new JsonResponse($this->judgments->of($trial));
    }
}
