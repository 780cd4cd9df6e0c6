# frozen_string_literal: true

# A limb has wood under its bark. Where what was kept leaves none, the bark is taken as not measured.
Sequel.migration do
  up do
    thick = "COALESCE(girth_mm / pi(), sqrt(wide_mm * narrow_mm))"
    run "UPDATE limbs SET bark_mm = NULL WHERE 2 * bark_mm >= #{thick}"
    run "ALTER TABLE limbs ADD CONSTRAINT wood_under_bark CHECK (2 * bark_mm < #{thick})"
    run "COMMENT ON CONSTRAINT wood_under_bark ON limbs IS 'below half of the thickness'"
  end

  down { run "ALTER TABLE limbs DROP CONSTRAINT wood_under_bark" }
end
