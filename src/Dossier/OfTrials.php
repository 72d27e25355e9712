<?php

declare(strict_types=1);

namespace App\Dossier;

use App\Http\Problem;
use App\Judgment\Judgments;
use App\Judgment\Section\ClassSection;
use App\Judgment\Section\EventSection;
use App\Judgment\Section\FigureLine;
use App\Judgment\Section\NumberSection;
use App\Question\Question;
use App\Reasons\Effects;
use App\Reasons\Matters;
use App\Study\Study;
use App\Trial\FigureView;
use App\Trial\StandingsView;
use App\Trial\Trial;
use App\Trial\TrialView;
use Dokimos\Core\Dossier\Block;
use Dokimos\Core\Dossier\Section;

/** The sections of a dossier on what was tried, how good it is, and why. */
final readonly class OfTrials
{
    public function __construct(
        private Judgments $judgments,
        private Matters $matters,
        private Effects $effects,
    ) {
    }

    /** @param class-string $kind */
    public function section(Trial $trial, string $kind): ?object
    {
        foreach ($this->judgments->of($trial)->sections as $section) {
            if ($section instanceof $kind) {
                return $section;
            }
        }

        return null;
    }

    public function tried(Study $study, StandingsView $standings): Section
    {
        $figure = $standings->measure;
        $done = array_values(array_filter($standings->trials, static fn (TrialView $t): bool => null !== $t->value));
        $blocks = [Block::text(\sprintf(
            '*%s made; %s. %s',
            1 === \count($standings->trials) ? 'One trial* was' : \count($standings->trials).' trials* were',
            0 === $standings->sealOpenings ? 'the seal was never opened' : \sprintf(
                'the seal was opened %d %s, for trial %s',
                $standings->sealOpenings,
                1 === $standings->sealOpenings ? 'time' : 'times',
                implode(' and trial ', array_map(
                    static fn (TrialView $t): string => (string) $t->number,
                    array_values(array_filter($standings->trials, static fn (TrialView $t): bool => $t->sealOpened)),
                )),
            ),
            null === $standings->luck ? '' : \sprintf(
                'Of the leader\'s figure %s is luck of being chosen.',
                Said::said($figure, $standings->luck),
            ),
        ), $opens = \sprintf('/study/%d/judgment', $study->id()))];
        $blocks[] = Pictures::trials($figure, \array_slice($done, 0, 20), $standings->baseline);
        $blocks[] = Block::table('All trials, hidden ones too', [
            'No.',
            'Trial',
            $figure->name,
            'Settings other than usual',
            'To read',
        ], array_map(static fn (TrialView $t): array => [
            (string) $t->number,
            $t->title.(null === $t->variantLetter ? '' : ' on '.$t->variantLetter).([] === $t->stale ? '' : ', stale'),
            Said::bounded($figure, $t->value, $t->low, $t->high),
            implode('; ', $t->settings),
            $t->size,
        ], $standings->trials));
        $f = $standings->finalists;
        $name = static fn (?int $id): string => array_values(
            array_filter($standings->trials, static fn (TrialView $t): bool => $t->id === $id),
        )[0]->title ?? 'none';
        $blocks[] = Block::text(\sprintf(
            'Finalists: *%s* is the strongest, *%s* the clearest of at most %d leaves, rules or terms.%s',
            $name($f->strongest),
            $name($f->clearest),
            $f->reading,
            null === $f->price ? '' : \sprintf(' The price of clarity is %s.', Said::bounded($figure, $f->price, $f->low, $f->high)),
        ), $opens);

        return new Section(
            'trials',
            'Trials',
            1 === \count($standings->trials) ? 'One trial' : \sprintf('%d trials, and why these two', \count($standings->trials)),
            $blocks,
        );
    }

    public function judgment(Trial $trial, Question $question): Section
    {
        $view = $this->judgments->of($trial);
        $blocks = [];
        foreach ($view->sections as $section) {
            if ($section instanceof EventSection || $section instanceof NumberSection || $section instanceof ClassSection) {
                $blocks[] = Block::table('Every figure with its interval of 95%', [
                    'Figure',
                    'Validation',
                    'Doing nothing',
                    'Sealed',
                    'What it means',
                ], array_map(static fn (FigureLine $l): array => [
                    $l->figure->name,
                    Said::bounded($l->figure, $l->interval->value, $l->interval->low, $l->interval->high),
                    Said::said($l->figure, $l->baseline),
                    null === $l->sealed ? 'sealed' : Said::bounded($l->figure, $l->sealed->value, $l->sealed->low, $l->sealed->high),
                    $l->says,
                ], $section->figures));
                array_push($blocks, ...Pictures::judged($section));
            }
        }
        foreach ($view->notes as $note) {
            $blocks[] = Block::text($note);
        }
        $figure = FigureView::of($question->figureOf($trial->line()->task));

        return new Section(
            'judgment',
            'Judgment',
            \sprintf(
                'Trial %d, %s: %s %s',
                $view->trial->number,
                $view->trial->title,
                $figure->name,
                Said::bounded($figure, $view->trial->value, $view->trial->low, $view->trial->high),
            ),
            $blocks,
        );
    }

    public function reasons(Trial $trial): Section
    {
        $view = $this->matters->of($trial, null);
        if ([] === $view->columns) {
            return new Section(
                'reasons',
                'Reasons',
                'What matters was not asked yet',
                [Block::text('Open Reasons, and the dossier tells what the trial goes by.')],
            );
        }
        $most = \array_slice($view->columns, 0, 15);

        return new Section('reasons', 'Reasons', \sprintf('%s matters most', $view->columns[0]->column), [
            Block::text(
                \sprintf(
                    '*%d of %d columns* carry what can be told from noise. '
                    .'A column that goes with %s need not bring it about: these are effects in the model.',
                    $view->carry,
                    \count($view->columns),
                    $view->event,
                ),
                \sprintf('/study/%d/reasons?trial=%d', $trial->study()->id(), $trial->id()),
            ),
            Pictures::matters($most),
            ...$this->effect($trial, $most[0]->column),
            Block::table('What each column does', ['Column', 'Lost when shuffled', 'Which way'], array_map(static fn ($c): array => [
                $c->column,
                null === $c->lost ? '–' : \sprintf('%.4f', $c->lost).(null === $c->low || null === $c->high ? '' : \sprintf(' (%.4f to %.4f)', $c->low, $c->high)),
                $c->goes,
            ], $most)),
        ]);
    }

    /** @return list<Block> how answers bend with a column; none where that cannot be told of it */
    private function effect(Trial $trial, string $column): array
    {
        try {
            return Pictures::effect($this->effects->of($trial, $column, null, []));
        } catch (Problem) {
            return [];
        }
    }
}
