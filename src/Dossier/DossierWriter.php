<?php

declare(strict_types=1);

namespace App\Dossier;

use App\Approval\Approval;
use App\Approval\Approvals;
use App\Judgment\Section\EventSection;
use App\Logbook\LogEntry;
use App\Question\Question;
use App\Question\Questions;
use App\Recheck\Rechecked;
use App\Recheck\Rechecks;
use App\Study\Study;
use App\Trial\StandingsView;
use App\Trial\Trial;
use App\Trial\Trials;
use App\Trial\TrialView;
use Doctrine\ORM\EntityManagerInterface;
use Dokimos\Core\Dossier\Block;
use Dokimos\Core\Dossier\Document;
use Dokimos\Core\Dossier\Section;

/** Writes the dossier of a study from the documents that its screens show: no figure is computed for it. */
final readonly class DossierWriter
{
    public function __construct(
        private EntityManagerInterface $entities,
        private Questions $questions,
        private Trials $trials,
        private Approvals $approvals,
        private Rechecks $rechecks,
        private OfData $data,
        private OfTrials $tried,
        private OfWork $work,
    ) {
    }

    /** @return list<Section> all there is to tell, in order; the first is the short form */
    public function sections(Study $study): array
    {
        $question = $this->questions->of($study);
        $table = $question->table();
        $standings = null === $table || null === $question->target() ? null : $this->trials->standings($study);
        $leader = $this->leader($standings);
        $sections = [$this->short($study, $question, $standings, $leader)];
        if (null !== $table) {
            array_push(
                $sections,
                $this->data->question($study, $question, $table),
                $this->data->table($table),
                $this->data->preparation($study),
            );
        }
        if (null !== $standings && [] !== $standings->trials) {
            $sections[] = $this->tried->tried($study, $standings);
        }
        if (null !== $leader && null !== $standings) {
            array_push($sections, $this->tried->judgment($leader, $question), $this->tried->reasons($leader));
        }
        array_push(
            $sections,
            $this->work->decisions($study),
            $this->work->rechecked($study),
            $this->work->approved($study),
            $this->work->methods($question, $table, $leader),
            $this->work->logbook($study),
        );

        return $sections;
    }

    /**
     * @param list<Section>                                                                                   $sections all there are
     * @param list<string>                                                                                    $off
     * @param list<array{section: string, text: string, print: bool, by: string, at: string, quote?: string}> $comments
     */
    public function document(Study $study, array $sections, array $off, bool $short, array $comments = []): Document
    {
        $kept = $short ? \array_slice($sections, 0, 1) : array_values(array_filter(
            $sections,
            static fn (Section $s): bool => !\in_array($s->key, $off, true),
        ));
        $last = $this->entities->getRepository(LogEntry::class)->findOneBy(['study' => $study], ['id' => 'DESC']);
        $as = null === $last ? '' : ', as of '.$last->at()->format('j M Y');

        return new Document(
            $study->name(),
            \sprintf('%s%s', '' === $study->question() ? 'A study' : $study->question(), $as),
            $kept,
            array_map(static fn (array $c): array => [
                'section' => $c['section'], 'by' => $c['by'], 'text' => $c['text'], 'quote' => $c['quote'] ?? '', 'print' => $c['print'],
            ], $comments),
        );
    }

    private function leader(?StandingsView $standings): ?Trial
    {
        $id = $standings?->finalists->strongest ?? ($standings?->trials[0] ?? null)?->id;
        $trial = null === $id ? null : $this->entities->find(Trial::class, $id);

        return null !== $trial && $trial->isDone() ? $trial : null;
    }

    private function short(Study $study, Question $question, ?StandingsView $standings, ?Trial $leader): Section
    {
        $table = $question->table();
        if (null === $leader || null === $standings || null === $table) {
            return new Section('short', 'In short', 'Nothing is decided yet', [
                Block::text(null === $table ? 'No table has been imported.' : 'No trial has been fitted.'),
            ]);
        }
        $view = TrialView::of($leader);
        $figure = $standings->measure;
        $at = '/study/'.$study->id();
        $blocks = [
            Block::text(\sprintf(
                'Predicted is *%s* for each record of %s, by %s columns known when the decision is made. %s.',
                null === $question->event() ? (string) $question->target() : \sprintf(
                    'whether %s is %s',
                    $question->target(),
                    $question->event(),
                ),
                $table->name(),
                number_format($view->columns),
                $this->data->split($question, $table),
            ), $at.'/trials'),
            Block::text(\sprintf(
                '*%s* (trial %d) leads: %s *%s* on rows it had not learned from%s. %s',
                $view->title,
                $view->number,
                $figure->name,
                Said::bounded($figure, $view->value, $view->low, $view->high),
                null === $standings->baseline ? '' : \sprintf('; doing nothing scores %s', Said::said($figure, $standings->baseline)),
                $standings->measureSays,
            ), $at.'/judgment/'.$leader->id()),
        ];
        $event = $this->tried->section($leader, EventSection::class);
        if ($event instanceof EventSection && [] !== $event->tenths) {
            $blocks[] = Pictures::caught($event);
        }
        if (null === $leader->opening()) {
            $blocks[] = Block::text(
                'The seal is closed: these figures come from the folds the trial was chosen by, and the examination on sealed rows is still to come.',
            );
        }
        $recheck = array_values(
            array_filter($this->rechecks->of($study), static fn (Rechecked $r): bool => '' !== $r->verdict()),
        )[0] ?? null;
        $approval = array_values(array_filter($this->approvals->of($study), static fn (Approval $a): bool => $a->isInForce()))[0] ?? null;
        $blocks[] = Block::text(null === $approval
            ? 'No model is approved for use; whatever is scored is *a draft*.'
            : \sprintf(
                '*%s* approved trial %s: %s It is not to be used for: %s',
                $approval->by(),
                (string) $approval->trial()?->number(),
                Said::ended($approval->sentence()),
                Said::ended($approval->limits()),
            ), $at.'/decisions/service');
        if (null !== $recheck) {
            $blocks[] = Block::text(
                \sprintf(
                    'On newer records (%s) it is *%s*. %s',
                    $recheck->table()->name(),
                    $recheck->verdict(),
                    Said::listed($recheck->told()['reasons'] ?? []),
                ),
                $at.'/decisions/recheck',
            );
        }
        $title = null !== $event && $event instanceof EventSection && [] !== $event->tenths && null !== ($event->tenths[2]->caught ?? null)
            ? \sprintf('Acting on 3 of 10 reaches %.0f of 100', 100 * $event->tenths[2]->caught)
            : \sprintf('%s %s', $figure->name, Said::said($figure, $view->value));

        return new Section('short', 'In short', $title, $blocks);
    }
}
