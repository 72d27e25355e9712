<?php

declare(strict_types=1);

namespace App\Judgment;

use App\Http\Problem;
use App\Trial\Trial;
use Dokimos\Core\Explain\RulesText;
use Dokimos\Core\Explain\TreeReading;
use Dokimos\Core\Explain\TreeText;
use Dokimos\Core\Learn\ShowsRules;
use Dokimos\Core\Learn\Tree\ShowsLeaves;
use Dokimos\Core\Task\Task;

/** What can be read of a model, written down to be taken elsewhere. */
final readonly class Elsewhere
{
    public function __construct(private Judgments $judgments)
    {
    }

    /**
     * Rules as sentences, a table, or a condition of SQL.
     *
     * @throws Problem for another learner, or another way
     */
    public function rules(Trial $trial, string $way, bool $sound): string
    {
        $scoring = $this->judgments->model($trial);
        if (!$scoring->model instanceof ShowsRules) {
            throw new Problem(404, \sprintf('Trial %d is no list of rules.', $trial->number()));
        }
        if (!\in_array($way, TreeText::WAYS, true)) {
            throw Problem::invalid('Rules are taken as text, csv or sql.', 'as');
        }
        $event = Task::TWO === $scoring->task ? $scoring->event : '';

        return RulesText::of($scoring->model->shownRules(), $way, $scoring->target, $event, $sound);
    }

    /**
     * The leaves of a tree as sentences, a table, or a condition of SQL.
     *
     * @throws Problem for another learner, or another way
     */
    public function tree(Trial $trial, string $way, bool $sound): string
    {
        $scoring = $this->judgments->model($trial);
        if (!$scoring->model instanceof ShowsLeaves) {
            throw new Problem(404, \sprintf('Trial %d is no decision tree.', $trial->number()));
        }
        if (!\in_array($way, TreeText::WAYS, true)) {
            throw Problem::invalid('A tree is taken as text, csv or sql.', 'as');
        }
        $tree = $scoring->model->tree();

        return TreeText::of($tree, TreeReading::of($tree, Judgments::cutoff($scoring)), $way, $scoring->target, $sound);
    }
}
