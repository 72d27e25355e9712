<?php

declare(strict_types=1);

namespace App\Judgment;

use App\Http\Problem;
use App\Preparation\Variant;
use App\Preparation\Variants;
use App\Question\Questions;
use App\Study\Study;
use App\Trial\Trial;
use App\Trial\TrialView;
use Doctrine\ORM\EntityManagerInterface;
use Dokimos\Core\Prepare\Learning;
use Dokimos\Core\Prepare\Spread;

/** Variants side by side: what is left of the table, how each column is spread, what was reached. */
final readonly class Comparisons
{
    private const BINS = 16;
    private const MOST = 4;

    public function __construct(private EntityManagerInterface $entities, private Variants $variants, private Questions $questions)
    {
    }

    /** @param list<string> $letters */
    public function of(Study $study, array $letters): ComparisonView
    {
        $chosen = array_values(array_filter(
            $this->variants->of($study),
            static fn (Variant $v) => \in_array($v->letter(), $letters, true),
        ));
        if (\count($chosen) < 2 || \count($chosen) > self::MOST) {
            throw Problem::invalid('Choose two to four variants to compare.', 'variants');
        }
        $ground = $this->variants->ground($study);
        $views = $tables = [];
        foreach ($chosen as $variant) {
            [$learning, $problem] = $this->variants->learn($ground, $variant->steps());
            $tables[] = $learning->learned;
            $views[] = $this->view($variant, $learning, $problem, $ground->factor);
        }
        $names = [];
        foreach ($tables as $table) {
            foreach ($table->table->names() as $name) {
                $names[$name] = true;
            }
        }
        $columns = [];
        foreach (array_keys($names) as $name) {
            $name = (string) $name;
            $spread = Spread::of($tables, $name, self::BINS);
            $kinds = $missing = $labels = $counts = [];
            foreach ($tables as $i => $table) {
                // One of another kind has a scale of its own.
                $own = isset($spread->counts[$i]) ? $spread : Spread::of([$i => $table], $name, self::BINS);
                $labels[] = $own->labels ?? [];
                $counts[] = $own->counts[$i] ?? [];
                $column = $table->table->has($name) ? $table->table->column($name) : null;
                $kinds[] = $column?->kind()->value;
                $missing[] = null === $column ? null : (int) round($ground->factor * \count(array_filter(
                    $table->among(range(0, max(0, $table->table->rows - 1))),
                    static fn (int $r) => $r < $table->table->rows && $column->isMissing($r),
                )));
            }
            $columns[] = new ColumnsBesideView($name, $kinds, $missing, $labels, $counts);
        }

        return new ComparisonView((int) round($ground->factor * $ground->table->rows), $ground->factor > 1.0, $views, $columns);
    }

    private function view(Variant $variant, Learning $learning, ?string $problem, float $factor): ComparedView
    {
        $trials = [];
        foreach ($this->entities->getRepository(Trial::class)->findBy(['variant' => $variant]) as $trial) {
            $line = TrialView::of($trial);
            if (null !== $line->value && $line->task === $this->questions->of($variant->study())->task()) {
                $trials[] = new TrialBesideView(
                    $line->id,
                    $line->number,
                    $line->learner,
                    $line->title,
                    $line->size,
                    $line->measure,
                    $line->value,
                    $line->low,
                    $line->high,
                    [] !== $line->stale,
                );
            }
        }
        $measure = $this->questions->of($variant->study())->figure();
        usort($trials, static fn (TrialBesideView $a, TrialBesideView $b) => $measure->order($a->value, $b->value));
        $times = static fn (int $n): int => (int) round($factor * $n);

        return new ComparedView(
            $variant->id(),
            $variant->letter(),
            $variant->name(),
            \count($variant->steps()),
            $times($learning->learned->rows()),
            \count($learning->learned->table->columns()),
            $times($learning->learned->missing()),
            $problem,
            $trials,
        );
    }
}
