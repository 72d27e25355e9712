<?php

declare(strict_types=1);

namespace App\Judgment;

use App\Http\Problem;
use App\Question\Ground;
use App\Question\OpenCells;
use App\Question\Questions;
use App\Table\TableColumn;
use App\Trial\Trial;
use Dokimos\Core\Learn\Tree\ShowsLeaves;
use Dokimos\Core\Task\Answers;
use Dokimos\Core\Task\Task;

/** The records behind a figure: those of a cell, of a band of errors, and those that were most mistaken. */
final readonly class Behind
{
    /** Bands end at so many times the typical error. */
    private const BANDS = [-2.0, -1.0, 1.0, 2.0];
    /** Records of a leaf that are named, at most: an address may be long but not endless. */
    private const NAMED = 1000;

    public function __construct(
        private Ground $ground,
        private OpenCells $reader,
        private Judgments $judgments,
        private Questions $questions,
        private Picks $picks,
    ) {
    }

    public function records(Trial $trial, Pick $pick, int $offset, int $limit): RecordsView
    {
        $this->judgments->ofEvent($trial, 'Cells of a cut-off are there');
        $picked = $this->picks->of($trial, $pick);
        [, $event, $rows] = $this->ground->open($trial->study(), []);
        $page = \array_slice($picked, max(0, $offset), max(1, min(200, $limit)), true);
        [$names, $cells] = $this->cells($trial, $rows, array_keys($page));
        $records = [];
        foreach ($page as $i => $c) {
            $records[] = new JudgedRecord($rows[$i] + 1, $c, $event[$i] > 0.5, $cells[$rows[$i]]);
        }

        return new RecordsView(\count($picked), $names, $records);
    }

    /** The validation rows that a trial of a number or of several classes got most wrong. */
    public function worst(Trial $trial, Pick $pick, int $limit): WorstView
    {
        if (Task::TWO === $this->judgments->model($trial)->task) {
            throw new Problem(409, 'For an event, the records behind each cell are listed by cut-off.');
        }
        $picked = $this->picks->of($trial, $pick);
        $classes = $this->questions->of($trial->study())->classes();
        [, $outcome, $rows] = $this->ground->open($trial->study(), []);
        $answers = $trial->answers();
        $page = \array_slice($picked, 0, max(1, min(200, $limit)), true);
        [$names, $cells] = $this->cells($trial, $rows, array_keys($page));
        $records = [];
        foreach ($page as $i => $off) {
            $records[] = new WorstRecord(
                $rows[$i] + 1,
                null === $classes ? null : $classes[$answers->likeliest($i)],
                null === $classes ? null : $classes[(int) $outcome[$i]],
                $answers->first($i),
                null === $classes ? $outcome[$i] : null,
                $off,
                $cells[$rows[$i]],
            );
        }

        return new WorstView(\count($picked), $names, $records, null === $classes ? self::bands($answers, $outcome) : []);
    }

    /** The open records that end in a leaf of a tree, by number. */
    public function leaf(Trial $trial, int $node): LeafRecordsView
    {
        $scoring = $this->judgments->model($trial);
        if (!$scoring->model instanceof ShowsLeaves) {
            throw new Problem(404, \sprintf('Trial %d is no decision tree.', $trial->number()));
        }
        $this->judgments->onItsRows($trial);
        [$table, , $rows] = $this->ground->open($trial->study(), array_map(strval(...), array_keys($scoring->asked)));
        $prepared = $scoring->preparation->apply($table);
        $numbers = [];
        foreach ($scoring->model->tree()->leaves($prepared->table) as $i => $leaf) {
            if ($leaf === $node && !isset($prepared->out[$i])) {
                $numbers[] = $rows[$i] + 1;
            }
        }

        return new LeafRecordsView($node, \count($numbers), \array_slice($numbers, 0, self::NAMED));
    }

    /**
     * @param list<float> $outcome
     *
     * @return list<BandView> lowest first: what came less what was predicted, in typical errors (the root of the mean square)
     */
    private static function bands(Answers $answers, array $outcome): array
    {
        $off = [];
        foreach ($outcome as $i => $y) {
            if ($answers->isKnown($i)) {
                $off[] = $y - $answers->first($i);
            }
        }
        $typical = sqrt(array_sum(array_map(static fn (float $o): float => $o * $o, $off)) / max(1, \count($off)));
        $edges = array_map(static fn (float $e): float => (float) \sprintf('%.3G', $e * $typical), self::BANDS);
        $bands = [];
        foreach ([...$edges, null] as $k => $high) {
            $low = $edges[$k - 1] ?? null;
            $bands[] = new BandView(
                $low,
                $high,
                \count(array_filter($off, static fn (float $o): bool => $o >= ($low ?? -\INF) && $o < ($high ?? \INF))),
            );
        }

        return $bands;
    }

    /**
     * @param list<int>             $rows of the table, of all open rows
     * @param array<array-key, int> $page places among these
     *
     * @return array{list<string>, array<int, list<?string>>}
     */
    private function cells(Trial $trial, array $rows, array $page): array
    {
        $table = $this->ground->table($trial->study());

        return [
            array_map(static fn (TableColumn $c): string => $c->name(), $table->columns()),
            [] === $page ? [] : $this->reader->rows($table, array_values(array_map(static fn (int $i): int => $rows[$i], $page))),
        ];
    }
}
