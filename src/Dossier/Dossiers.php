<?php

declare(strict_types=1);

namespace App\Dossier;

use App\Account\User;
use App\Http\Problem;
use App\Logbook\Logbook;
use App\Study\Study;
use Doctrine\ORM\EntityManagerInterface;
use Dokimos\Core\Dossier\Document;
use Dokimos\Core\Dossier\Section;

/** The dossier of a study as it stands now: what it tells, what is left out, and its files. */
final readonly class Dossiers
{
    private const MOST = 100;

    public function __construct(
        private EntityManagerInterface $entities,
        private DossierWriter $writer,
        private PdfMaker $pdf,
        private Logbook $logbook,
    ) {
    }

    public function plan(Study $study): DossierPlan
    {
        return $this->entities->find(DossierPlan::class, $study->id()) ?? new DossierPlan($study);
    }

    public function view(Study $study): DossierView
    {
        $plan = $this->plan($study);
        $sections = $this->writer->sections($study);
        $document = $this->writer->document($study, $sections, $plan->off(), false, $plan->comments());
        [$pages, $count] = $this->pdf->pages($this->writer->document($study, $sections, $plan->off(), false, $plan->printed()));
        $told = [];
        foreach ($document->sections as $i => $section) {
            $told[$section->key] = (new Document('', '', [$section], $document->comments))->inner($i, true);
        }

        return new DossierView(
            array_map(static fn (Section $s): SectionView => new SectionView(
                $s->key,
                $s->name,
                $s->title,
                !\in_array($s->key, $plan->off(), true),
                $pages[$s->key] ?? null,
                $told[$s->key] ?? '',
            ), $sections),
            $count,
            array_map(static fn (array $c): CommentView => new CommentView(...$c), $plan->comments()),
        );
    }

    public function document(Study $study, bool $short): Document
    {
        $plan = $this->plan($study);

        return $this->writer->document($study, $this->writer->sections($study), $plan->off(), $short, $plan->printed());
    }

    /** @return array{string, string} bytes, and what kind they are of */
    public function file(Study $study, string $format, bool $short): array
    {
        $document = $this->document($study, $short);

        return match ($format) {
            'html' => [$document->html(), 'text/html; charset=utf-8'],
            'pdf' => [$this->pdf->make($document)[0], 'application/pdf'],
            default => throw Problem::invalid('Choose html or pdf.', 'format'),
        };
    }

    public function change(Study $study, User $user, DossierRequest $request): void
    {
        $keys = array_map(static fn (Section $s): string => $s->key, $this->writer->sections($study));
        $unknown = array_values(array_diff($request->off, $keys));
        if ([] !== $unknown) {
            throw Problem::invalid(\sprintf('There is no section %s.', $unknown[0]), 'off');
        }
        if ([] === array_diff($keys, $request->off)) {
            throw Problem::invalid('A dossier tells something: keep one section at least.', 'off');
        }
        if (\count($request->comments) > self::MOST) {
            throw Problem::invalid('A dossier has up to 100 comments.', 'comments');
        }
        $plan = $this->plan($study);
        $before = [];
        foreach ($plan->comments() as $old) {
            $before[$old['section']."\0".($old['quote'] ?? '')."\0".$old['text']] = $old;
        }
        $comments = [];
        foreach ($request->comments as $comment) {
            if (!\in_array($comment->section, $keys, true)) {
                throw Problem::invalid(\sprintf('There is no section %s.', $comment->section), 'comments');
            }
            $text = trim($comment->text);
            if ('' === $text) {
                throw Problem::invalid('A comment says something.', 'comments');
            }
            $old = $before[$comment->section."\0".$comment->quote."\0".$text] ?? null;
            $comments[] = [
                'section' => $comment->section,
                'text' => $text,
                'print' => $comment->print,
                'by' => $old['by'] ?? $user->name(),
                'at' => $old['at'] ?? (new \DateTimeImmutable())->format(\DATE_ATOM),
                'quote' => $comment->quote,
            ];
        }
        $plan->change(array_values(array_unique($request->off)), $comments);
        $this->entities->persist($plan);
        $this->entities->flush();
    }

    public function noteTaken(Study $study, User $user, string $format, bool $short): void
    {
        $this->logbook->write(
            $study,
            $user,
            'decisions',
            \sprintf('Took the dossier along as %s%s.', strtoupper($format), $short ? ', its short form' : ''),
        );
        $this->entities->flush();
    }
}
