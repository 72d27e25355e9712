<?php

declare(strict_types=1);

namespace Dokimos\Core\Prepare;

/** Every kind of step there is, before and after it has learned. */
final class Steps
{
    /** In the order they are offered. */
    private const ALL = [
        SetAside::class, KeepOnly::class, Rename::class, ChangeKind::class, Derive::class, DateParts::class, TextTerms::class, KeepStrong::class,
        FillMissing::class, DropRows::class, DropColumns::class,
        Recode::class, GroupRare::class, Outliers::class, Bins::class, Scale::class, Encode::class,
        KeepRows::class, Duplicates::class,
        Components::class, Clusters::class, Interact::class,
    ];
    private const FITTED = [
        'set_aside' => Aside::class, 'keep_only' => Aside::class, 'drop_columns' => Aside::class, 'keep_strong' => Aside::class,
        'rename' => Rename::class, 'change_kind' => FittedKind::class, 'formula' => Derive::class, 'date_parts' => DateParts::class, 'text_terms' => FittedTerms::class,
        'fill_missing' => FittedFill::class, 'drop_rows' => FittedDropRows::class,
        'recode' => Recode::class, 'group_rare' => FittedLevels::class, 'outliers' => FittedLimits::class, 'bins' => FittedBins::class, 'scale' => FittedScale::class,
        'keep_rows' => KeepRows::class, 'duplicates' => FittedDuplicates::class,
        'components' => FittedComponents::class, 'clusters' => FittedClusters::class, 'interact' => Interact::class,
    ];

    /** @return list<Described> every kind of step, in the order of the form */
    public static function described(): array
    {
        return array_map(static fn (string $class) => $class::described(), self::ALL);
    }

    /**
     * @param array<string, mixed> $data settings with the key "step"
     *
     * @throws CannotPrepare there is no step called "…"
     */
    public static function fromSettings(array $data): Step
    {
        foreach (self::ALL as $class) {
            if ($class::described()->step === ($data['step'] ?? null)) {
                return $class::fromSettings(new Settings($data));
            }
        }

        throw new CannotPrepare(\sprintf('There is no step called "%s".', \is_string($data['step'] ?? null) ? $data['step'] : ''));
    }

    /**
     * @param array<string, mixed> $data as a fitted step wrote it
     *
     * @throws \UnexpectedValueException This model has a step that is not known here. Was it made by a newer version?
     */
    public static function fitted(array $data): FittedStep
    {
        $kind = $data['step'] ?? null;
        if ('encode' === $kind) {
            return isset($data['levels']) ? FittedMarks::fromArray($data) : FittedCodes::fromArray($data);
        }
        $class = self::FITTED[\is_string($kind) ? $kind : ''] ?? throw new \UnexpectedValueException('This model has a step that is not known here. Was it made by a newer version?');

        return $class::fromArray($data);
    }
}
