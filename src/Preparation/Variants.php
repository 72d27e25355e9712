<?php

declare(strict_types=1);

namespace App\Preparation;

use App\Account\User;
use App\Http\Problem;
use App\Logbook\Logbook;
use App\Study\Study;
use App\Table\TableReader;
use App\Trial\Ground;
use Doctrine\ORM\EntityManagerInterface;
use Dokimos\Core\Prepare\CannotPrepare;
use Dokimos\Core\Prepare\Preparation;
use Dokimos\Core\Prepare\Toll;

/** Preparation variants and what each of their steps costs. */
final readonly class Variants
{
    /** Above so many rows tolls are counted on a sample, so that an answer comes at once. */
    private const EXACT_ROWS = 131072;

    public function __construct(private EntityManagerInterface $entities, private TableReader $reader, private Ground $ground, private Logbook $logbook)
    {
    }

    /** @return list<Variant> the study's variants; a first empty one is made when there is none */
    public function of(Study $study): array
    {
        $variants = $this->entities->getRepository(Variant::class)->findBy(['study' => $study], ['letter' => 'ASC']);
        if ([] === $variants) {
            $first = new Variant($study, 'A', 'First');
            $this->entities->persist($first);
            $this->entities->flush();
            $variants = [$first];
        }

        return $variants;
    }

    public function create(Study $study, User $user, ?string $name, ?Variant $from): Variant
    {
        $letters = array_map(static fn (Variant $v) => $v->letter(), $this->of($study));
        $free = array_values(array_diff(range('A', 'Z'), $letters));
        $letter = $free[0] ?? throw new Problem(409, 'A study holds at most 26 variants.');
        $variant = new Variant($study, (string) $letter, $name ?? 'Another');
        $variant->changeSteps($from?->steps() ?? []);
        $this->entities->persist($variant);
        $this->logbook->write($study, $user, 'preparation', \sprintf('Variant %s, %s, begun%s.', $variant->letter(), $variant->name(), null === $from ? '' : ' from '.$from->letter()));
        $this->entities->flush();

        return $variant;
    }

    /** @param list<array<string, mixed>> $steps */
    public function change(Variant $variant, User $user, ?string $name, ?array $steps): VariantView
    {
        if (null !== $name && $name !== $variant->name()) {
            $variant->rename($name);
        }
        if (null !== $steps) {
            $clean = array_map(self::clean(...), $steps);
            $before = $variant->hash();
            $variant->changeSteps($clean);
            $view = $this->view($variant, $clean);
            if ($before !== $variant->hash()) {
                $this->logbook->write($variant->study(), $user, 'preparation', \sprintf('Variant %s now has %d steps: %s columns and %s missing cells are left of %s and %s.%s', $variant->letter(), \count($clean), number_format($view->columnsAfter), number_format($view->missingAfter), number_format($view->columnsBefore), number_format($view->missingBefore), null === $view->problem ? '' : ' '.$view->problem));
            }
        }
        $this->entities->flush();

        return $this->view($variant, $variant->steps());
    }

    /**
     * Checks a step's settings and keeps only what belongs to it.
     *
     * @param array<string, mixed> $step
     *
     * @return array<string, mixed>
     */
    private static function clean(array $step): array
    {
        $note = $step['note'] ?? '';

        return Preparation::step($step)->toArray() + array_filter(['note' => \is_string($note) ? mb_substr($note, 0, 500) : '', 'off' => true === ($step['off'] ?? false)]);
    }

    /**
     * The tolls of steps, learned on the unsealed rows; nothing is stored.
     *
     * @param list<array<string, mixed>> $steps
     */
    public function view(Variant $variant, array $steps): VariantView
    {
        $source = $this->ground->table($variant->study());
        [$table, $numbers] = $this->reader->sample($source, $this->ground->candidates($variant->study()), self::EXACT_ROWS);
        $factor = $table->rows > 0 ? $source->rows() / $table->rows : 1.0;
        $whole = new Toll($table->rows, $table->rows, \count($table->columns()), \count($table->columns()), $table->missing(), $table->missing());
        $whole = $whole->scaled($factor);
        $sealed = array_fill_keys($variant->study()->sealedRows(), true);
        $training = array_keys(array_filter($numbers, static fn (int $r) => !isset($sealed[$r])));
        $now = $table;
        $views = [];
        $problems = [];
        foreach ($steps as $i => $data) {
            $off = true === ($data['off'] ?? false);
            $toll = $sentence = $own = null;
            try {
                $step = Preparation::step($data);
                if (!$off && [] === $problems) {
                    $fitted = $step->fit($now, $training);
                    $after = $fitted->apply($now);
                    $toll = Toll::between($now, $after)->scaled($factor);
                    $sentence = $fitted->sentence().($factor > 1.0 ? ' Counted in the sample.' : '');
                    $now = $after;
                }
            } catch (CannotPrepare $e) {
                $own = $e->getMessage();
                $problems[] = \sprintf('Step %d cannot be done: %s', $i + 1, $own);
            }
            /** @var list<string> $columns */
            $columns = \is_array($data['columns'] ?? null) ? array_values($data['columns']) : [];
            $views[] = new StepView(\is_string($data['step'] ?? null) ? $data['step'] : '', $columns, \is_string($data['method'] ?? null) ? $data['method'] : null, true === ($data['mark'] ?? false), $off, \is_string($data['note'] ?? null) ? $data['note'] : '', $sentence, $toll, $own);
        }

        $left = [];
        foreach ($now->columns() as $name => $column) {
            if ($column->missing() > 0) {
                $left[] = new CandidateView((string) $name, $column->kind()->value, (int) round($factor * $column->missing()));
            }
        }

        return new VariantView($variant->id(), $variant->version(), $variant->letter(), $variant->name(), $whole->rowsBefore, $whole->columnsBefore, $whole->missingBefore, (int) round($factor * $now->rows), \count($now->columns()), (int) round($factor * $now->missing()), $views, $left, $problems[0] ?? null, $factor > 1.0);
    }

    /** @return list<CandidateView> what the steps may name, before the first of them */
    public function candidates(Study $study): array
    {
        $names = $this->ground->candidates($study);
        $out = [];
        foreach ($this->ground->table($study)->columns() as $column) {
            if (\in_array($column->name(), $names, true)) {
                $missing = $column->profile()['missing'] ?? 0;
                $out[] = new CandidateView($column->name(), $column->kind()->value, \is_int($missing) ? $missing : 0);
            }
        }

        return $out;
    }
}
