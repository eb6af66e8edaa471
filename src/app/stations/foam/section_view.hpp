#pragma once
#include <QWidget>
#include <optional>

#include "core/piece/edge_cut.hpp"

namespace awl {

/// A seam cut across, drawn at its real size (or a whole number of times that), the knife in it.
class SectionView : public QWidget {
  Q_OBJECT

 public:
  explicit SectionView(QWidget* parent = nullptr);
  void show(const std::optional<CrossSection>& section);
  /// How many times larger than real it is drawn; 1 is real size.
  int times() const { return m_times; }
  const std::optional<CrossSection>& section() const { return m_section; }

 protected:
  void paintEvent(QPaintEvent* event) override;

 private:
  std::optional<CrossSection> m_section;
  int m_times = 2;
  Vec2 m_middle = Vec2::Zero();  ///< of what is drawn
};

}  // namespace awl
