<?php

declare(strict_types=1);

namespace Dokimos\Core\Learn\Network;

use Dokimos\Core\Progress;
use Dokimos\Core\Random;

/** Epoch by epoch over the training rows in small parts, until rows kept back gain no more. */
final readonly class Training
{
    /** A loss so many times that of the beginning has run away. */
    private const RUNAWAY = 20.0;

    /** @param array<string, string|float|int|bool> $settings of the learner */
    public function __construct(private Net $net, private array $settings)
    {
    }

    /**
     * @param list<float> $y     by row of the inputs
     * @param list<float> $w
     * @param list<int>   $learn rows learned from
     * @param ?Inputs     $held  rows kept back; null = none
     * @param list<float> $heldY
     * @param list<float> $heldW
     */
    public function run(
        Inputs $inputs,
        array $y,
        array $w,
        array $learn,
        ?Inputs $held,
        array $heldY,
        array $heldW,
        float $rate,
        float $l2,
        bool $isRelu,
        Progress $progress,
    ): Course {
        $seed = (int) $this->settings['seed'];
        $p = $this->net->shape->drawn($seed, $isRelu);
        $random = Random::stream($seed, 'network batches');
        $optimizer = new Optimizer((string) $this->settings['optimizer'], $this->net->shape->parameters);
        $most = (int) $this->settings['epochs'];
        $patience = (int) $this->settings['patience'];
        // Few rows are parted too: a network takes hundreds of steps to learn anything.
        $size = max(1, min((int) $this->settings['batch'], intdiv(\count($learn), 8)));
        $dropped = (float) $this->settings['dropout'];
        $schedule = (string) $this->settings['schedule'];
        $first = $this->net->loss($p, $held ?? $inputs, null === $held ? $y : $heldY, null === $held ? $w : $heldW);
        $bestLoss = null === $held ? \INF : $first;
        [$best, $bestAt, $waited, $epochs] = [$p, 0, 0, []];
        for ($epoch = 1; $epoch <= $most; ++$epoch) {
            $now = match ($schedule) {
                NeuralNetwork::FALLS => $rate * (0.1 + 0.9 * 0.5 * (1 + cos(\M_PI * ($epoch - 1) / max(1, $most)))),
                default => $rate,
            };
            $loss = $seen = 0.0;
            foreach (array_chunk($random->shuffleArray($learn), $size) as $rows) {
                [$own, $g] = $this->net->slope($p, $inputs, $rows, $y, $w, $l2, $dropped, $random);
                $p = $optimizer->step($p, $g, $now);
                $loss += $own * \count($rows);
                $seen += \count($rows);
            }
            $loss /= max(1.0, $seen);
            $progress->report($epoch / $most, \sprintf('epoch %d', $epoch));
            $judged = null === $held ? null : $this->net->loss($p, $held, $heldY, $heldW);
            if (!is_finite($loss) || !is_finite($judged ?? 0.0) || $loss > self::RUNAWAY * max(1e-6, $first) + 1e3) {
                return new Course($best, $epochs, $bestAt, \INF, \sprintf('The loss ran away in epoch %d.', $epoch), true);
            }
            $epochs[] = ['round' => $epoch, 'training' => $loss, 'held' => $judged];
            if (null === $judged) {
                [$best, $bestAt, $bestLoss] = [$p, $epoch, $loss];
                continue;
            }
            if ($judged < $bestLoss - 1e-7 * abs($bestLoss)) {
                [$best, $bestLoss, $bestAt, $waited] = [$p, $judged, $epoch, 0];
            } elseif (++$waited >= $patience) {
                return new Course(
                    $best,
                    $epochs,
                    $bestAt,
                    $bestLoss,
                    \sprintf(
                        'It stopped after epoch %d: for %d epochs the rows kept back had lost no less. The weights of epoch %d were kept.',
                        $epoch,
                        $patience,
                        $bestAt,
                    ),
                    false,
                );
            } elseif (NeuralNetwork::HALVED === $schedule && 0 === $waited % max(2, intdiv($patience, 2))) {
                $rate /= 2;
            }
        }

        return new Course($best, $epochs, $bestAt, $bestLoss, null === $held
            ? \sprintf('It went through all %d epochs; no rows were kept back to stop it.', $most)
            : \sprintf(
                'It went through all %d epochs. The weights of epoch %d were kept, where the rows kept back lost least.',
                $most,
                $bestAt,
            ), false);
    }
}
